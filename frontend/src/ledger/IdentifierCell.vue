<script setup lang="ts">
/** A section's identifier, the one that it would get, or the field where it is typed. */
import type { SectionView } from "../api/client";
import SignIcon from "../components/SignIcon.vue";
import { usePage } from "../stores/page";
import IdentifierField from "./IdentifierField.vue";

defineProps<{ section: SectionView; editing: boolean; locked: boolean }>();
const emit = defineEmits<{ edit: []; done: [value: string]; better: [name: string]; leave: [] }>();

const state = usePage();
</script>

<template>
  <td class="identifier" :class="{ editing, weak: state.stage === 'identifiers' && section.better }">
    <IdentifierField
      v-if="editing"
      :value="section.identifier ?? section.proposed ?? ''"
      :own="section.identifier ?? ''"
      :words="section.text"
      @done="emit('done', $event)"
      @leave="emit('leave')"
    />
    <button
      v-else
      type="button"
      tabindex="-1"
      class="name"
      :disabled="locked"
      :title="section.identifier ? 'Rename' : 'Give this identifier'"
      @click.stop="emit('edit')"
    >
      <span v-if="section.identifier" class="plate">{{ section.identifier }}</span>
      <span v-else class="would">{{ section.proposed }}</span>
    </button>
    <button
      v-if="state.stage === 'identifiers' && section.better && !editing"
      type="button"
      tabindex="-1"
      class="better"
      :disabled="locked"
      :title="`${section.weakness} Rename it to “${section.better}”; all links follow.`"
      :aria-label="`${section.identifier}: ${section.weakness} Rename it to ${section.better}`"
      @click.stop="emit('better', section.better)"
    >
      <SignIcon name="wrong" /> {{ section.better }}
    </button>
  </td>
</template>

<style scoped>
td {
  height: 30px;
  padding: 2px 4px;
  border-bottom: 1px solid var(--line);
  text-align: left;
}

.identifier {
  width: 27%;
}

.identifier.weak {
  white-space: nowrap;
}

td.weak > .name,
td.weak > .better {
  display: inline-block;
  vertical-align: middle;
  max-width: 49%;
}

.better {
  max-width: 50%;
  padding: 0 0 0 4px;
  overflow: hidden;
  border: 0;
  background: none;
  color: var(--wait);
  font: 11.5px/1.3 var(--code);
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}

.name {
  display: block;
  max-width: 100%;
  border: 1px solid transparent;
  border-radius: 4px;
  background: none;
  padding: 1px 2px;
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: text;
}

.name:hover:not(:disabled) {
  border-color: var(--line-strong);
}

.would {
  font-family: var(--code);
  font-size: 12px;
  color: var(--ink-soft);
  border-bottom: 1px dashed var(--line-strong);
  font-variant-ligatures: none;
}

td.identifier.editing {
  overflow: visible;
}
</style>
