<script setup lang="ts">
/** A place to publish to: a new one, or one that is there and changed. */
import { computed, ref } from "vue";
import type { TargetView } from "../api/client";

export interface TargetDraft {
  name: string;
  kind: TargetView["kind"];
  address: string;
  user_name: string;
  live: string;
  secret: string;
  delay: number;
  bandwidth: number;
  charset: string;
}

const props = defineProps<{ target: TargetView | null; busy: boolean }>();
const emit = defineEmits<{ keep: [draft: TargetDraft] }>();
const KINDS: { value: TargetView["kind"]; label: string; address: string; example: string }[] = [
  { value: "practice", label: "Practice host", address: "", example: "" },
  { value: "folder", label: "Folder", address: "Folder on this computer", example: "/home/me/www" },
  { value: "webdav", label: "WebDAV", address: "Address of the folder", example: "https://host.example/dav/site" },
  { value: "sftp", label: "SFTP", address: "Address of the folder", example: "sftp://host.example/www" },
];
/** What practice readers may have, in bytes a second. */
const BANDWIDTHS = [
  { value: 0, label: "as fast as it goes" },
  { value: 1_000_000, label: "a good line, 8 Mbit/s" },
  { value: 125_000, label: "a slow phone, 1 Mbit/s" },
  { value: 20_000, label: "a bad phone, 160 kbit/s" },
];
const CHARSETS = [
  { value: "", label: "nothing, as most hosts" },
  { value: "utf-8", label: "utf-8" },
  { value: "iso-8859-1", label: "iso-8859-1, as old hosts" },
];
const known = props.target;
const practice = computed(() => props.target?.practice ?? null);
const draft = ref<TargetDraft>({
  name: known?.name ?? "",
  kind: known?.kind ?? "practice",
  address: known?.address ?? "",
  user_name: known?.user_name ?? "",
  live: known?.live ?? "",
  secret: "",
  delay: known?.practice?.way.delay ?? 0,
  bandwidth: known?.practice?.way.bandwidth ?? 0,
  charset: known?.practice?.way.charset ?? "",
});
const kind = computed(() => KINDS.find((one) => one.value === draft.value.kind)!);
const remote = computed(() => draft.value.kind === "webdav" || draft.value.kind === "sftp");
</script>

<template>
  <el-form label-position="top" class="draft" @submit.prevent="emit('keep', draft)">
    <el-segmented v-model="draft.kind" :options="KINDS" :disabled="known !== null" aria-label="How files get there" />
    <p v-if="draft.kind === 'practice'" class="soft small">
      A small web server that comes with Humble Signpost. It answers on this computer alone, as hosts do.
    </p>
    <el-alert v-if="practice?.wrong" type="warning" :title="practice.wrong" :closable="false" />
    <div class="fields">
      <el-form-item label="Name"
        ><el-input v-model="draft.name" maxlength="100" placeholder="Our host" :disabled="known !== null"
      /></el-form-item>
      <el-form-item v-if="kind.address" :label="kind.address"
        ><el-input v-model="draft.address" maxlength="2000" :placeholder="kind.example" spellcheck="false"
      /></el-form-item>
      <template v-if="remote">
        <el-form-item label="User"
          ><el-input v-model="draft.user_name" maxlength="200" autocomplete="off"
        /></el-form-item>
        <el-form-item :label="known?.has_secret ? 'Password (empty leaves it)' : 'Password'"
          ><el-input v-model="draft.secret" type="password" maxlength="1000" autocomplete="new-password"
        /></el-form-item>
      </template>
      <template v-if="draft.kind === 'practice'">
        <el-form-item label="Seconds until it answers"
          ><el-input-number v-model="draft.delay" :min="0" :max="30" :step="0.5"
        /></el-form-item>
        <el-form-item label="Speed of its line">
          <el-select v-model="draft.bandwidth" aria-label="Speed of its line">
            <el-option v-for="one in BANDWIDTHS" :key="one.value" :value="one.value" :label="one.label" />
          </el-select>
        </el-form-item>
        <el-form-item label="Encoding that it names for pages">
          <el-select
            v-model="draft.charset"
            :empty-values="[null, undefined]"
            aria-label="Encoding that it names for pages"
          >
            <el-option v-for="one in CHARSETS" :key="one.value" :value="one.value" :label="one.label" />
          </el-select>
        </el-form-item>
      </template>
      <el-form-item v-else label="Address that readers use, if it has one"
        ><el-input v-model="draft.live" maxlength="2000" placeholder="https://our-line.example/" spellcheck="false"
      /></el-form-item>
    </div>
    <p v-if="practice" class="soft small">
      To practise WebDAV, make another target with the address <code>{{ practice.address }}</code>, the user
      <code>{{ practice.user_name }}</code> and the password <code>{{ practice.password }}</code>.
    </p>
    <el-button native-type="submit" :disabled="!draft.name.trim() || busy">Keep this target</el-button>
  </el-form>
</template>

<style scoped>
.draft {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 10px;
  padding: 10px 0 14px;
}

.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 14px;
  width: 100%;
}

.fields :deep(.el-form-item) {
  margin: 0;
}
</style>
