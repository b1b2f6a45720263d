<script lang="ts">
/** Something that can be done from the menu. */
export interface Tool {
  words: string;
  does: () => void;
  off?: boolean; // there is nothing to do
  always?: boolean; // even while nothing may be edited
  apart?: boolean; // a line is above it
}
</script>

<script setup lang="ts">
/** A menu of what is done less often; arrow keys go through it. */
import { nextTick, ref } from "vue";

const props = defineProps<{ tools: readonly Tool[]; unable: boolean }>();
const open = ref(false);
const box = ref<HTMLElement | null>(null);
const opener = ref<HTMLButtonElement | null>(null);

const items = () => [...(box.value?.querySelectorAll<HTMLElement>("[role=menuitem]:not(:disabled)") ?? [])];
const isOff = (tool: Tool) => tool.off === true || (props.unable && !tool.always);

function show(): void {
  open.value = !open.value;
  if (open.value) void nextTick(() => items()[0]?.focus());
}

function step(by: number): void {
  const all = items();
  all[(all.indexOf(document.activeElement as HTMLElement) + by + all.length) % all.length]?.focus();
}

function close(): void {
  open.value = false;
  opener.value?.focus();
}

function choose(tool: Tool): void {
  close();
  tool.does();
}

function leave(event: FocusEvent): void {
  if (!box.value?.contains(event.relatedTarget as Node | null)) open.value = false;
}
</script>

<template>
  <div ref="box" class="tool-menu" @focusout="leave" @keydown.esc.stop.prevent="close">
    <button
      ref="opener"
      type="button"
      class="button"
      aria-haspopup="menu"
      :aria-expanded="open"
      @click="show"
      @keydown.down.prevent="open || show()"
    >
      More…
    </button>
    <div
      v-if="open"
      role="menu"
      class="menu"
      @keydown.down.prevent.stop="step(1)"
      @keydown.up.prevent.stop="step(-1)"
    >
      <button
        v-for="tool in tools"
        :key="tool.words + String(tool.apart)"
        type="button"
        role="menuitem"
        tabindex="-1"
        :class="{ apart: tool.apart }"
        :disabled="isOff(tool)"
        @click="choose(tool)"
      >
        {{ tool.words }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.tool-menu {
  position: relative;
}

.menu {
  position: absolute;
  z-index: 20;
  top: calc(100% + 4px);
  left: 0;
  display: flex;
  flex-direction: column;
  min-width: 250px;
  padding: 4px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: var(--sheet);
  box-shadow: var(--shadow);
}

.menu button {
  padding: 5px 10px;
  border: 0;
  border-radius: 4px;
  background: none;
  text-align: left;
  cursor: pointer;
}

.menu button:hover:not(:disabled),
.menu button:focus-visible {
  background: var(--post-wash);
}

.menu button:disabled {
  color: var(--ink-soft);
  cursor: not-allowed;
}

.menu .apart {
  margin-top: 5px;
  box-shadow: 0 -3px 0 -2px var(--line);
}
</style>
