<script setup lang="ts">
/** The changes of a page or of the whole site, the newest first. */
import { ref, shallowRef, watch } from "vue";
import { authorName } from "../api/author";
import { detailOf, type ChangeEntry } from "../api/client";
import { useChanges } from "../stores/changes";
import { useDialogs } from "../stores/dialogs";
import { useTray } from "../stores/tray";

const props = defineProps<{ siteId: string; path: string }>();
const emit = defineEmits<{ turn: [entry: ChangeEntry] }>();

const tray = useTray();
const changes = useChanges();
const dialogs = useDialogs();
const everywhere = ref(false);
const shown = shallowRef<ChangeEntry[]>([]);
const more = ref(false);
const problem = ref("");
let asked = 0;

/** Show the newest changes, or those behind the last that is shown as well. */
async function load(before?: number): Promise<void> {
  const mine = ++asked;
  try {
    const found = await changes.ask(props.siteId, before, everywhere.value ? "" : props.path);
    if (mine !== asked) return;
    shown.value = before ? [...shown.value, ...found.entries] : found.entries;
    more.value = found.more;
    problem.value = "";
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}
watch([() => changes.entries, () => props.path, everywhere], () => load(), { immediate: true });
const when = (text: string) => new Date(text).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });
</script>

<template>
  <el-checkbox class="everywhere small" v-model="everywhere">On the whole site</el-checkbox>
  <el-form label-position="top" @submit.prevent>
    <el-form-item label="Your name, for others who have this site open">
      <el-input v-model="authorName" maxlength="80" autocomplete="name" />
    </el-form-item>
  </el-form>
  <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
  <p v-else-if="!shown.length" class="soft">No changes {{ everywhere ? "on this site" : "on this page" }} yet.</p>
  <ol v-else class="changes">
    <li v-for="entry in shown" :key="entry.number" :class="{ undone: entry.undone }">
      <div class="what">
        <strong>{{ entry.title }}</strong>
        <span class="soft small">
          {{ entry.author ? `${entry.author} · ` : "" }}{{ entry.undone ? "undone · " : "" }}{{ entry.edits }}
          {{ entry.edits === 1 ? "edit" : "edits" }} in
          {{ entry.paths.length === 1 ? entry.paths[0] : `${entry.paths.length} files` }} ·
          {{ when(entry.created_at) }}
        </span>
      </div>
      <el-button
        v-if="entry.operation === 'outside' && !entry.undone && Object.keys(entry.moves).length"
        text
        :disabled="tray.busy"
        @click="tray.propose({ operation: 'follow-moves', page: path, moves: entry.moves })"
        >Update links to {{ Object.keys(entry.moves).length === 1 ? "it" : "them" }}</el-button
      >
      <el-button
        :disabled="!entry.can_turn"
        :title="entry.can_turn ? '' : 'Later changes touch the same files; undo those first'"
        @click="emit('turn', entry)"
      >
        {{ entry.undone ? "Redo" : "Undo" }}<span class="unseen"> {{ entry.title }}</span>
      </el-button>
    </li>
  </ol>
  <p class="foot">
    <el-button v-if="more" size="small" @click="load(shown.at(-1)?.number)">Show older ones</el-button>
    <el-button text size="small" @click="dialogs.show({ name: 'history' })">Shorten the history…</el-button>
  </p>
</template>

<style scoped>
.author {
  width: 180px;
}

.everywhere {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-bottom: 8px;
}

.changes {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}

.what {
  flex: 1;
  display: flex;
  flex-direction: column;
}

.foot {
  display: flex;
  justify-content: space-between;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}

.undone strong {
  font-weight: 400;
  text-decoration: line-through;
}
</style>
