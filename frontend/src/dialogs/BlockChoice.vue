<script setup lang="ts">
/** A block of the page's content, chosen from those of the selected section first. */
import { computed, onMounted, ref } from "vue";
import { detailOf, type BlockView } from "../api/client";
import { useChoices } from "../stores/choices";
import { usePage } from "../stores/page";

const props = defineProps<{ label: string; initial?: number; end?: boolean }>();
const chosen = defineModel<number | null>({ required: true });
const page = usePage();
const choices = useChoices();
const blocks = ref<BlockView[]>([]);
const problem = ref("");

/** The blocks by the section they are in. */
const groups = computed(() => {
  const found = new Map<number, BlockView[]>();
  for (const block of blocks.value) found.set(block.section, [...(found.get(block.section) ?? []), block]);
  return [...found].map(([section, own]) => ({
    words: page.view?.sections[section]?.text ?? "Before the first heading",
    own,
  }));
});
const words = (block: BlockView) => `line ${block.line} · ${block.tag} · ${block.text || "(no words)"}`;

onMounted(async () => {
  try {
    blocks.value = await choices.blocks();
    const near = blocks.value.find((block) => block.section === page.selected) ?? blocks.value[0];
    chosen.value = props.initial ?? (props.end ? null : (near?.start ?? null));
  } catch (error) {
    problem.value = detailOf(error);
  }
});
</script>

<template>
  <label>
    <span>{{ label }}</span>
    <select v-model="chosen" class="field">
      <option v-if="end" :value="null">at the end of the content</option>
      <optgroup v-for="(group, at) in groups" :key="at" :label="group.words">
        <option v-for="block in group.own" :key="block.start" :value="block.start">{{ words(block) }}</option>
      </optgroup>
    </select>
    <span v-if="problem" role="alert" class="wrong small">{{ problem }}</span>
  </label>
</template>

<style scoped>
select {
  max-width: 100%;
  text-overflow: ellipsis;
}
</style>
