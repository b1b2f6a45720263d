<script setup lang="ts">
/** The folder that a site is: where it is, whether it is there, what was edited on both sides. */
import { ElMessageBox } from "element-plus";
import { computed, ref, shallowRef, watch } from "vue";
import { useRouter } from "vue-router";
import { api, data, detailOf, type ConflictView, type FolderView } from "../api/client";
import { useSite } from "../stores/site";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";
import ConflictDialog from "./ConflictDialog.vue";
import SignIcon from "./SignIcon.vue";

const props = defineProps<{ siteId: string; turn: number }>();
const emit = defineEmits<{ changed: [] }>();
const router = useRouter();
const site = useSite();
const tray = useTray();
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

const isPage = (file: string) => /\.(x?html?|shtml)$/i.test(file);
/** Have each change committed, or not. What the folder itself runs then is told and asked for first. */
async function commit(commits: boolean): Promise<void> {
  const runs = folder.value?.runs ?? [];
  if (commits && runs.length) {
    try {
      await ElMessageBox.confirm(
        `Each commit runs what this folder's own settings name: ${runs.join(", ")}. Go on if you know who made them.`,
        "Let this folder's programs run?",
        { confirmButtonText: "Commit, and let them run", cancelButtonText: "Cancel" },
      );
    } catch {
      return;
    }
  }
  await run(data(api.PUT("/api/sites/{site_id}/folder/commits", { ...path(), body: { commits } })));
}

/** Compare a page with what the last commit has of it. */
const compare = (file: string) =>
  run(
    (async () => {
      const query = { path: file };
      const params = { path: { site_id: props.siteId }, query };
      const { sha256 } = await data(api.POST("/api/sites/{site_id}/folder/committed", { params }));
      await router.push({
        name: "compare",
        params: { siteId: props.siteId },
        query: { left: file, lr: sha256, right: file },
      });
    })(),
  );
/** What was moved in the folder, as long as links lead to where it was. */
const moved = computed(() => {
  const goals = Object.values(folder.value?.moves ?? {});
  return goals.length > 1 ? counted(goals.length, "moved file") : (goals[0] ?? "");
});
const follow = () =>
  void tray.propose({
    operation: "follow-moves",
    page: site.view?.first[0] ?? "",
    moves: folder.value?.moves ?? {},
  });
/** Files that cannot be brought together for now, those that the folder lacks first. */
const waits = computed(() => [...(folder.value?.waits ?? [])].sort((a, b) => a.side.localeCompare(b.side)));
const again = () => run(data(api.POST("/api/sites/{site_id}/folder/sync", path())));
const unlink = () => run(data<unknown>(api.DELETE("/api/sites/{site_id}/folder", path())));
const decide = (side: "desk" | "folder" | "text", text: string) =>
  run(
    data(
      api.POST("/api/sites/{site_id}/folder/conflicts", {
        ...path(),
        body: { path: deciding.value?.path ?? "", side, text },
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
    <el-popover v-if="waits.length" trigger="click" :width="460" placement="bottom-end">
      <template #reference>
        <el-button size="small" class="waits"
          ><SignIcon name="wrong" /> {{ counted(waits.length, "file") }} waiting</el-button
        >
      </template>
      <ul class="differing">
        <li v-for="one in waits" :key="one.path" class="wait-row">
          <span
            ><code>{{ one.path }}</code>
            {{ one.side === "desk" ? "is not written to the folder" : "is not taken in" }}: {{ one.why }}.
            <span class="soft">{{ one.remedy }}</span></span
          >
        </li>
      </ul>
      <el-button size="small" @click="again">Try again</el-button>
    </el-popover>
    <el-popover v-if="folder.is_work_tree && !folder.away" trigger="click" :width="360" placement="bottom-end">
      <template #reference>
        <el-button text size="small">{{
          folder.differing.length ? `${counted(folder.differing.length, "file")} not committed` : "all committed"
        }}</el-button>
      </template>
      <el-checkbox :model-value="folder.commits" @change="commit(Boolean($event))"
        >Commit each change made here, with its name</el-checkbox
      >
      <p v-if="!folder.differing.length" class="soft small">Every file is as in the last commit.</p>
      <ul v-else class="differing">
        <li v-for="one in folder.differing" :key="one">
          <span>{{ one }}</span>
          <el-button v-if="isPage(one)" text size="small" @click="compare(one)">Compare</el-button>
        </li>
      </ul>
    </el-popover>
    <el-button v-if="moved" size="small" :disabled="tray.busy" @click="follow">Update links to {{ moved }}</el-button>
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

.differing {
  max-height: 260px;
  overflow: auto;
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
}

.differing li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  overflow-wrap: anywhere;
}

.waits {
  color: var(--wait);
}

.wait-row {
  padding: 4px 0;
}

.words {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
</style>
