<script setup lang="ts">
/** The folder that a site is: where it is, whether it is there, what was edited on both sides. */
import { ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type ConflictView, type FolderView } from "../api/client";
import { counted } from "../text/count";
import ConflictDialog from "./ConflictDialog.vue";
import SignIcon from "./SignIcon.vue";

const props = defineProps<{ siteId: string; turn: number }>();
const emit = defineEmits<{ changed: [] }>();
const folder = shallowRef<FolderView | null>(null);
const deciding = shallowRef<ConflictView | null>(null);
const problem = ref("");
const path = () => ({ params: { path: { site_id: props.siteId } } });

async function load(): Promise<void> {
  try {
    folder.value = await data(api.GET("/api/sites/{site_id}/folder", path()));
  } catch {
    folder.value = null; // it is told elsewhere that the site cannot be shown
  }
}
watch(() => [props.siteId, props.turn], load, { immediate: true });

async function run(work: Promise<unknown>): Promise<void> {
  problem.value = "";
  try {
    await work;
  } catch (error) {
    problem.value = detailOf(error);
  }
  deciding.value = null;
  await load();
  emit("changed");
}

const again = () => run(data(api.POST("/api/sites/{site_id}/folder/sync", path())));
const unlink = () => run(data<unknown>(api.DELETE("/api/sites/{site_id}/folder", path())));
const decide = (side: "desk" | "folder") =>
  run(
    data(
      api.POST("/api/sites/{site_id}/folder/conflicts", {
        ...path(),
        body: { path: deciding.value?.path ?? "", side },
      }),
    ),
  );
</script>

<template>
  <div v-if="folder" class="folder" :class="{ away: folder.away }">
    <SignIcon :name="folder.away ? 'wrong' : 'folder'" />
    <span v-if="folder.away" class="words" role="alert">{{ folder.away }}</span>
    <span v-else class="words soft small"
      >Linked to <code>{{ folder.folder }}</code></span
    >
    <template v-if="folder.conflicts.length">
      <span class="wait">{{ counted(folder.conflicts.length, "file") }} edited here and in the folder:</span>
      <el-button v-for="one in folder.conflicts" :key="one.path" size="small" @click="deciding = one"
        >{{ one.path }}…</el-button
      >
    </template>
    <el-button v-if="folder.away" size="small" @click="again">Try again</el-button>
    <el-popconfirm
      title="Folder and site stay as they are, and go their own ways from now on."
      confirm-button-text="Unlink"
      :width="300"
      @confirm="unlink"
    >
      <template #reference><el-button text size="small">Unlink…</el-button></template>
    </el-popconfirm>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <ConflictDialog v-if="deciding" :conflict="deciding" @close="deciding = null" @decide="decide" />
  </div>
</template>

<style scoped>
.folder {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 8px;
  padding: 5px 12px;
  background: var(--sheet-sunk);
  border-bottom: 1px solid var(--line);
}

.folder.away {
  color: var(--wait);
  background: var(--wait-wash);
}

.words {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
