<script setup lang="ts">
/** The changes of a page or of the whole site, the newest first. */
import { computed, ref } from "vue";
import { authorName } from "../api/author";
import type { ChangeEntry } from "../api/client";
import { useTray } from "../stores/tray";

const props = defineProps<{ entries: ChangeEntry[]; path: string }>();
const emit = defineEmits<{ turn: [entry: ChangeEntry] }>();

const tray = useTray();
const everywhere = ref(false);
const shown = computed(() =>
  everywhere.value ? props.entries : props.entries.filter((entry) => entry.paths.includes(props.path)),
);
const when = (text: string) => new Date(text).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });
</script>

<template>
  <el-checkbox class="everywhere small" v-model="everywhere">On the whole site</el-checkbox>
  <el-form label-position="top" @submit.prevent>
    <el-form-item label="Your name, for others who have this site open">
      <el-input v-model="authorName" maxlength="80" autocomplete="name" />
    </el-form-item>
  </el-form>
  <p v-if="!shown.length" class="soft">No changes {{ everywhere ? "on this site" : "on this page" }} yet.</p>
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

.undone strong {
  font-weight: 400;
  text-decoration: line-through;
}
</style>
