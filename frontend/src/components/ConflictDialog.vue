<script setup lang="ts">
/** A file that was edited here and in the folder, in the same lines: both side by side, and one of them chosen. */
import { html } from "@codemirror/lang-html";
import { MergeView } from "@codemirror/merge";
import { EditorState } from "@codemirror/state";
import { EditorView, lineNumbers } from "@codemirror/view";
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from "vue";
import type { ConflictView } from "../api/client";
import MergePlaces from "../compare/MergePlaces.vue";

type Side = "base" | "desk" | "folder";
type Pair = "places" | "both" | "desk" | "folder";
const props = defineProps<{ conflict: ConflictView }>();
const emit = defineEmits<{ close: []; decide: [side: "desk" | "folder" | "text", text: string] }>();
const PAIRS: { value: Pair; label: string; sides: [Side, Side] }[] = [
  { value: "both", label: "Desk and folder", sides: ["desk", "folder"] },
  { value: "desk", label: "What the desk changed", sides: ["base", "desk"] },
  { value: "folder", label: "What the folder changed", sides: ["base", "folder"] },
];
const NAMES: Record<Side, string> = { base: "Before", desk: "At the desk", folder: "In the folder" };
const text = ref("");
const open = ref(0);
const hasPlaces = computed(() => props.conflict.pieces.length > 0);
const pairs = computed(() => (hasPlaces.value ? [{ value: "places", label: "Place by place" }, ...PAIRS] : PAIRS));
const pair = ref<Pair>(hasPlaces.value ? "places" : "both");
const sides = computed(
  (): [Side, Side] => PAIRS.find((one) => one.value === pair.value)?.sides ?? ["desk", "folder"],
);
const holder = ref<HTMLElement>();
let view: MergeView | null = null;

function draw(): void {
  view?.destroy();
  if (!holder.value) return;
  const state = (side: Side) => ({
    doc: props.conflict[side] ?? "",
    extensions: [
      lineNumbers(),
      html(),
      EditorState.readOnly.of(true),
      EditorView.editable.of(false),
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({
        "aria-label": `${props.conflict.path}, ${NAMES[side].toLowerCase()}`,
        tabindex: "0",
      }),
    ],
  });
  const [a, b] = sides.value;
  view = new MergeView({ a: state(a), b: state(b), parent: holder.value, collapseUnchanged: { margin: 4 } });
}
onMounted(() => nextTick(draw));
watch(pair, () => nextTick(draw));
onBeforeUnmount(() => view?.destroy());
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="`${conflict.path} was edited here and in the folder`"
    width="min(1120px, 94vw)"
    align-center
    append-to-body
    @opened="draw"
    @close="emit('close')"
  >
    <el-segmented v-model="pair" :options="pairs" aria-label="What is compared" />
    <MergePlaces
      v-if="pair === 'places'"
      v-model="text"
      class="places"
      :pieces="conflict.pieces"
      :knows-base="conflict.base !== null"
      ours="The desk's"
      theirs="The folder's"
      @open="open = $event"
    />
    <div v-show="pair !== 'places'" class="names soft small">
      <span v-for="side in sides" :key="side"
        >{{ NAMES[side] }}{{ conflict[side] === null ? ": the file is not there" : "" }}</span
      >
    </div>
    <div v-show="pair !== 'places'" ref="holder" class="merge" />
    <p class="soft small">What you do not choose stays in the list of changes, where you can get it back.</p>
    <template #footer>
      <el-button @click="emit('close')">Decide later</el-button>
      <el-button @click="emit('decide', 'desk', '')">Keep the desk's</el-button>
      <el-button :type="pair === 'places' ? 'default' : 'primary'" @click="emit('decide', 'folder', '')"
        >Take the folder's</el-button
      >
      <el-button
        v-if="pair === 'places'"
        type="primary"
        :disabled="open > 0"
        :title="open ? 'Decide each place first' : ''"
        @click="emit('decide', 'text', text)"
        >Put them together</el-button
      >
    </template>
  </el-dialog>
</template>

<style scoped>
.names {
  display: grid;
  grid-template-columns: 1fr 1fr;
  padding: 8px 0 2px;
}

.places {
  margin-top: 8px;
}

.merge {
  height: 52vh;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  font-size: 12.5px;
}
</style>
