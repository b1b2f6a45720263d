<script setup lang="ts">
/** What can be done with one file of a site: rename, move, replace or delete it, read it in another encoding. */
import { ElMessage } from "element-plus";
import { ref } from "vue";
import { authorHeader } from "../api/author";
import { api, data, detailOf, type Intake } from "../api/client";
import { useDialogs } from "../stores/dialogs";

const props = withDefaults(
  defineProps<{ siteId: string; path: string; isPage?: boolean; encoding?: string | null; linksIn?: number }>(),
  {
    isPage: false,
    encoding: null,
    linksIn: 0,
  },
);
const emit = defineEmits<{ changed: [] }>();
const dialogs = useDialogs();
const chosen = ref<HTMLInputElement | null>(null);
const naming = ref(false);
const wanted = ref("");

/** Encodings that pages of today and of twenty years ago are in, by the standard's names. */
const USUAL = [
  "utf-8",
  "windows-1252",
  "iso-8859-2",
  "iso-8859-15",
  "windows-1250",
  "windows-1251",
  "koi8-r",
  "macintosh",
  "shift_jis",
  "euc-jp",
  "gbk",
  "big5",
  "euc-kr",
];

async function attempt(work: () => Promise<string>): Promise<void> {
  try {
    ElMessage({ message: await work(), type: "success" });
    emit("changed");
  } catch (error) {
    ElMessage({ message: detailOf(error), type: "error", duration: 8000 });
  }
}

async function replace(event: Event): Promise<void> {
  const field = event.target as HTMLInputElement;
  const file = field.files?.[0];
  field.value = "";
  if (!file) return;
  await attempt(async () => {
    const form = new FormData();
    form.append("replace", "true");
    form.append("files", file, props.path);
    const answer = await fetch(`/api/sites/${encodeURIComponent(props.siteId)}/files`, {
      method: "POST",
      body: form,
      headers: { "x-signpost-author": authorHeader() },
    });
    const found = await answer.json();
    if (!answer.ok) throw new Error(detailOf(found));
    const skipped = (found as Intake).skipped[0];
    if (skipped) throw new Error(`${props.path}: ${skipped.reason}`);
    return `${props.path} replaced. You can undo this in Changes.`;
  });
}

async function read(): Promise<void> {
  naming.value = false;
  await attempt(async () => {
    await data<unknown>(
      api.PUT("/api/sites/{site_id}/encoding", {
        params: { path: { site_id: props.siteId } },
        body: { path: props.path, encoding: wanted.value || null },
      }),
    );
    return wanted.value ? `${props.path} is read as ${wanted.value}.` : `${props.path} is read as it declares.`;
  });
}

function choose(command: string): void {
  if (command === "delete") dialogs.show({ name: "delete-file", path: props.path, linksIn: props.linksIn });
  else if (command === "move") dialogs.show({ name: "move-file", path: props.path, isPage: props.isPage });
  else if (command === "replace") chosen.value?.click();
  else {
    wanted.value = props.encoding ?? "";
    naming.value = true;
  }
}
</script>

<template>
  <span>
    <el-dropdown trigger="click" @command="choose">
      <el-button text size="small" :aria-label="`More about ${path}`">⋯</el-button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item command="move">Rename or move…</el-dropdown-item>
          <el-dropdown-item command="replace">Replace…</el-dropdown-item>
          <el-dropdown-item v-if="isPage" command="encoding">Read in another encoding…</el-dropdown-item>
          <el-dropdown-item command="delete">Delete…</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
    <input ref="chosen" type="file" hidden :aria-label="`Replacement for ${path}`" @change="replace" />
    <el-dialog v-model="naming" title="Read in another encoding" width="460">
      <p class="soft">
        If letters of {{ path }} look wrong, the file is in another encoding than it declares. Browsers go by what it
        declares, so correct the declaration too.
      </p>
      <el-select
        v-model="wanted"
        filterable
        allow-create
        clearable
        placeholder="As the page declares"
        aria-label="Encoding"
        class="encodings"
      >
        <el-option v-for="name in USUAL" :key="name" :value="name" :label="name" />
      </el-select>
      <template #footer><el-button type="primary" @click="read">Use this encoding</el-button></template>
    </el-dialog>
  </span>
</template>

<style scoped>
.encodings {
  margin-top: 12px;
}
</style>
