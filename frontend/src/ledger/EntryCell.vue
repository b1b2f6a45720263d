<script setup lang="ts">
/** A section's entry in the contents: its words, whether it is listed, and what is wrong with it. */
import { computed } from "vue";
import type { SectionView } from "../api/client";
import { STATE_WORDS, useContents } from "../composables/useContents";
import EditField from "./EditField.vue";

const props = defineProps<{ section: SectionView; editing: boolean; locked: boolean }>();
const emit = defineEmits<{ edit: []; done: [words: string]; leave: [] }>();
const contents = useContents();

const index = computed(() => props.section.index);
const entry = computed(() => contents.entries.value.get(index.value) ?? null);
const state = computed(() => contents.stateOf(index.value));
</script>

<template>
  <td class="entry" :class="[`is-${state}`, { editing }]">
    <EditField
      v-if="editing"
      :value="entry?.words ?? ''"
      :label="`Entry of ${section.text}`"
      @done="emit('done', $event)"
      @leave="emit('leave')"
    />
    <span v-else-if="contents.block.value" class="entry-row">
      <input
        v-if="state !== 'none'"
        type="checkbox"
        tabindex="-1"
        :checked="state !== 'left-out'"
        :disabled="locked"
        :aria-label="`${section.text} in the contents`"
        @change="contents.toggle(index)"
        @click.stop
      />
      <button
        v-if="entry"
        type="button"
        tabindex="-1"
        class="words"
        :disabled="locked"
        title="Give the entry words of your own"
        @click.stop="emit('edit')"
      >
        {{ entry.words || "(no words)" }}
      </button>
      <span v-if="STATE_WORDS[state]" class="small state">{{ STATE_WORDS[state] }}</span>
      <el-button
        size="small"
        v-if="state === 'doubted'"
        tabindex="-1"
        class="keep"
        :disabled="locked"
        title="The words are right, though the heading changed"
        @click.stop="contents.keep(index)"
      >
        Keep
      </el-button>
      <el-button
        size="small"
        v-if="state === 'shortened' || state === 'doubted'"
        tabindex="-1"
        class="keep"
        :disabled="locked"
        title="Use the heading's words"
        @click.stop="contents.setWords(index, '')"
      >
        As heading
      </el-button>
    </span>
  </td>
</template>

<style scoped>
.entry {
  width: 46%;
  height: 30px;
  padding: 2px 4px;
  border-bottom: 1px solid var(--line);
}

.editing {
  overflow: visible;
}

.entry-row {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
}

.words {
  max-width: 100%;
  min-width: 0;
  padding: 1px 2px;
  border: 1px solid transparent;
  border-radius: 4px;
  background: none;
  font: 13.5px/1.4 var(--read);
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: text;
}

.words:hover:not(:disabled) {
  border-color: var(--line-strong);
}

.state {
  flex: none;
  color: var(--ink-soft);
}

.is-stale .state,
.is-doubted .state,
.is-missing .state {
  color: var(--wait);
  font-weight: 600;
}

.is-stale .words {
  text-decoration: underline wavy var(--wait) 1px;
  text-underline-offset: 3px;
}

.is-left-out .state {
  font-style: italic;
}

.keep {
  height: 22px;
  padding: 0 6px;
}
</style>
