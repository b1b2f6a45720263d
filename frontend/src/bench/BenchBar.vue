<script setup lang="ts">
/** What is above the bench: the page or its source, and what is being chosen or typed there. */
import SignIcon from "../components/SignIcon.vue";
import TabRow from "../components/TabRow.vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";

defineProps<{ locked: string }>();
const chosen = defineModel<"source" | "page">({ required: true });
const emit = defineEmits<{ stop: []; drop: []; save: []; point: [] }>();
const page = usePage();
const dialogs = useDialogs();

const BENCHES: ["source" | "page", string][] = [
  ["page", "Page"],
  ["source", "Source"],
];
</script>

<template>
  <div class="bench-bar">
    <TabRow v-model="chosen" :tabs="BENCHES" label="Bench" panel="bench-panel" />
    <p v-if="dialogs.picking || dialogs.linking" class="small typed" role="status">
      {{
        dialogs.picking
          ? `Choose where “${dialogs.picking.text.slice(0, 24)}” leads, on the road or in the ledger`
          : "Choose the words with the mouse, or click a link or a picture"
      }}
      <el-button size="small" @click="emit('stop')">Stop</el-button>
    </p>
    <template v-else-if="page.typing">
      <span class="small typed" role="status">Typed, not saved</span>
      <el-button size="small" @click="emit('drop')">Drop</el-button>
      <el-button type="primary" size="small" @click="emit('save')">Save <kbd>Ctrl S</kbd></el-button>
    </template>
    <template v-else>
      <el-button text size="small"
        v-if="!locked" class="point"
        :aria-pressed="dialogs.pointing"
        title="Give an identifier to any place (i)"
        @click="emit('point')"
      >
        <SignIcon name="link" /> {{ dialogs.pointing ? "Click the place…" : "Identify a place" }}
      </el-button>
      <span class="soft small hand" :title="`${page.view?.lines} lines`"
        >{{ page.view?.encoding }} ·
        {{ { "\n": "LF", "\r\n": "CRLF", "\r": "CR" }[page.view?.newline ?? "\n"] }}</span
      >
    </template>
  </div>
</template>

<style scoped>
.bench-bar {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 0 8px;
  min-height: 38px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet-sunk);
  flex: none;
}

.hand {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.typed {
  color: var(--wait);
  font-weight: 600;
}
</style>
