<script setup lang="ts">
/** A block of the page's content, chosen from those of the selected section first. */
import { computed, onMounted, ref } from "vue";
import { detailOf, type BlockView } from "../api/client";
import PickOne, { type Choice } from "../components/PickOne.vue";
import { useBench } from "../stores/bench";
import { useDialogs } from "../stores/dialogs";
import { useChoices } from "../stores/choices";
import { usePage } from "../stores/page";

const props = defineProps<{ label: string; initial?: number; end?: boolean }>();
const chosen = defineModel<number | null>({ required: true });
const page = usePage();
const choices = useChoices();
const bench = useBench();
const dialogs = useDialogs();
const blocks = ref<BlockView[]>([]);
const problem = ref("");

const options = computed<Choice<number | null>[]>(() => [
  ...(props.end ? [{ value: null, words: "at the end of the content" }] : []),
  ...blocks.value.map((block) => ({
    value: block.start,
    words: `line ${block.line} · ${block.tag} · ${block.text || "(no words)"}`,
    group: page.view?.sections[block.section]?.text ?? "Before the first heading",
  })),
]);
/** The block that the cursor in the source is in or before; null where the source has none. */
const atCursor = computed(() => blocks.value.findLast((block) => block.line <= page.cursorLine) ?? null);
const ofSection = computed(() => blocks.value.find((block) => block.section === page.selected) ?? null);

/** Let the author click the block on the page; the dialog stands aside until then. */
function pick(): void {
  bench.show("page");
  dialogs.pointing = true;
  dialogs.placing = (start) => {
    chosen.value = blocks.value.findLast((block) => block.start <= start)?.start ?? chosen.value;
  };
}

onMounted(async () => {
  try {
    blocks.value = await choices.blocks();
    const near = (page.cursorLine ? atCursor.value : null) ?? ofSection.value ?? blocks.value[0];
    chosen.value = props.initial ?? (props.end ? null : (near?.start ?? null));
  } catch (error) {
    problem.value = detailOf(error);
  }
});
</script>

<template>
  <el-form-item :label="label" :error="problem">
    <PickOne v-model="chosen" :choices="options" :label="label" size="default" />
    <div class="quick">
      <el-button v-if="atCursor" size="small" @click="chosen = atCursor.start"
        >At the cursor (line {{ atCursor.line }})</el-button
      >
      <el-button size="small" @click="pick">Click on the page…</el-button>
      <el-button v-if="ofSection" size="small" @click="chosen = ofSection.start">In the selected section</el-button>
    </div>
  </el-form-item>
</template>

<style scoped>
.quick {
  display: flex;
  gap: 6px;
  margin-top: 6px;
}
</style>
