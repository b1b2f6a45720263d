<script setup lang="ts">
/** An address of another site, a letter, a call or a file: typed or chosen, put together and judged by the server. */
import { watchDebounced } from "@vueuse/core";
import { computed, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type AddressView, type LinkState } from "../api/client";
import { usePage } from "../stores/page";
import { sizeOf } from "../text/count";

export type AddressKind = "outside" | "mail" | "phone" | "file";

const props = defineProps<{ kind: AddressKind; state: LinkState | null }>();
const made = defineModel<AddressView | null>({ required: true });
const page = usePage();
const begun = props.state?.kind === props.kind ? props.state : null;
const main = ref(begun?.main ?? "");
const subject = ref(begun?.subject ?? "");
const words = ref(begun?.words ?? "");
const problem = ref("");
const used = shallowRef<readonly string[]>([]);
const files = shallowRef<readonly { path: string; size: number }[]>([]);
let asked = 0;

const PLACEHOLDERS: Record<AddressKind, string> = {
  outside: "https://example.org/page.html",
  mail: "office@example.org",
  phone: "+44 1632 960123",
  file: "Find a file",
};
const LABELS: Record<AddressKind, string> = {
  outside: "Address",
  mail: "E-mail address",
  phone: "Telephone number",
  file: "File of the site",
};
const site = computed(() => ({ site_id: page.siteId }));

async function compose(): Promise<void> {
  const mine = ++asked;
  if (!main.value.trim()) {
    made.value = null;
    problem.value = "";
    return;
  }
  const query = { path: page.path, kind: props.kind, main: main.value, subject: subject.value, words: words.value };
  try {
    const found = await data(api.GET("/api/sites/{site_id}/address", { params: { path: site.value, query } }));
    if (mine !== asked) return;
    made.value = found;
    problem.value = "";
  } catch (error) {
    if (mine !== asked) return;
    made.value = null;
    problem.value = detailOf(error);
  }
}

/** Addresses that the site leads to already and that contain what is typed. */
async function findUsed(): Promise<void> {
  try {
    const params = { path: site.value, query: { query: main.value } };
    used.value = await data(api.GET("/api/sites/{site_id}/outside", { params }));
  } catch {
    used.value = [];
  }
}

async function findFiles(typed: string): Promise<void> {
  try {
    const params = { path: site.value, query: { query: typed } };
    files.value = await data(api.GET("/api/sites/{site_id}/linkable-files", { params }));
  } catch {
    files.value = [];
  }
}

watch(main, () => (made.value = null));
watchDebounced([main, subject, words], compose, { debounce: 200 });
if (props.kind === "outside") watchDebounced(main, findUsed, { debounce: 120, immediate: true });
if (main.value) void compose();
</script>

<template>
  <el-form-item :label="LABELS[kind]">
    <el-select
      v-if="kind === 'file'"
      v-model="main"
      filterable
      remote
      remote-show-suffix
      :remote-method="findFiles"
      :aria-label="LABELS.file"
      :placeholder="PLACEHOLDERS.file"
      @focus="findFiles('')"
    >
      <el-option v-for="file in files" :key="file.path" :value="file.path" :label="file.path">
        <span class="file"
          ><span>{{ file.path }}</span
          ><span class="soft small">{{ sizeOf(file.size) }}</span></span
        >
      </el-option>
    </el-select>
    <el-input
      v-else
      v-model="main"
      class="code"
      autofocus
      clearable
      spellcheck="false"
      autocomplete="off"
      :list="kind === 'outside' ? 'addresses-used' : undefined"
      :placeholder="PLACEHOLDERS[kind]"
    />
    <datalist v-if="kind === 'outside'" id="addresses-used">
      <option v-for="address in used" :key="address" :value="address" />
    </datalist>
  </el-form-item>
  <template v-if="kind === 'mail'">
    <el-form-item label="Subject, if you want one"><el-input v-model="subject" maxlength="200" /></el-form-item>
    <el-form-item label="Text that the letter begins with, if any"
      ><el-input v-model="words" type="textarea" :rows="3" maxlength="2000"
    /></el-form-item>
  </template>
  <el-form-item v-if="kind === 'outside'" label="Open at these words of that page, if you want"
    ><el-input v-model="words" maxlength="300" placeholder="as they stand there"
  /></el-form-item>
  <el-alert v-if="problem" :title="problem" type="error" :closable="false" show-icon />
  <div v-else-if="made" class="made" role="status">
    <code>{{ made.address }}</code>
    <p v-for="note in made.notes" :key="note" class="soft small">{{ note }}</p>
    <p v-if="made.own" class="soft small">
      This is a place of this site.
      <el-button text size="small" @click="made = { ...made, address: made.own, own: null, notes: [] }"
        >Write it as {{ made.own }}</el-button
      >
    </p>
  </div>
</template>

<style scoped>
.made code {
  overflow-wrap: anywhere;
}

.file {
  display: flex;
  justify-content: space-between;
  gap: 16px;
}
</style>
