<script setup lang="ts">
/** Two versions of a text, place by place where both were edited: for each, one of them, both, or words of one's own. */
import { computed, reactive, watch } from "vue";
import type { MergedPiece } from "../api/client";
import { counted } from "../text/count";

type Choice = "ours" | "theirs" | "both" | "own";

const props = defineProps<{ pieces: readonly MergedPiece[]; ours: string; theirs: string; knowsBase?: boolean }>();
const model = defineModel<string>({ default: "" });
const emit = defineEmits<{ open: [places: number] }>();

const choices = reactive(new Map<number, Choice>());
const own = reactive(new Map<number, string>());
const disputed = computed(() => props.pieces.flatMap((piece, at) => (piece.merged === null ? [at] : [])));
const open = computed(() => disputed.value.filter((at) => !choices.has(at)).length);
const textOf = (at: number): string => {
  const piece = props.pieces[at]!;
  switch (choices.get(at)) {
    case "theirs":
      return piece.theirs;
    case "both":
      return piece.ours + piece.theirs;
    case "own":
      return own.get(at) ?? "";
    default:
      return piece.ours;
  }
};
const whole = computed(() => props.pieces.map((piece, at) => piece.merged ?? textOf(at)).join(""));
watch(whole, (text) => (model.value = text), { immediate: true });
watch(open, (places) => emit("open", places), { immediate: true });

function choose(at: number, choice: Choice): void {
  if (choice === "own" && !own.has(at)) own.set(at, textOf(at));
  choices.set(at, choice);
}

/** What stays between two places, in a few words. */
const between = (text: string) => counted(text.split("\n").length - 1 || 1, "line");
/** Where a place begins in the text as it is put together, 1-based. */
const lineOf = (at: number) =>
  props.pieces
    .slice(0, at)
    .map((piece, index) => piece.merged ?? textOf(index))
    .join("")
    .split("\n").length;
const versions = computed(() => [
  ...(props.knowsBase === false ? [] : [{ key: "base" as const, label: "Before" }]),
  { key: "ours" as const, label: props.ours },
  { key: "theirs" as const, label: props.theirs },
]);
</script>

<template>
  <div class="merge-places">
    <template v-for="(piece, at) in pieces" :key="at">
      <p v-if="piece.merged !== null" class="between soft small">{{ between(piece.merged) }} stay as put together</p>
      <fieldset v-else class="place" :class="{ open: !choices.has(at) }">
        <legend>Line {{ lineOf(at) }}</legend>
        <div class="versions" :style="{ '--versions': versions.length }">
          <figure v-for="one in versions" :key="one.key">
            <figcaption class="soft small">{{ one.label }}</figcaption>
            <pre tabindex="0" :aria-label="`${one.label}, line ${lineOf(at)}`">{{
              piece[one.key] || "(nothing)"
            }}</pre>
          </figure>
        </div>
        <el-radio-group
          size="small"
          :model-value="choices.get(at)"
          :aria-label="`What counts at line ${lineOf(at)}`"
          @change="choose(at, $event as Choice)"
        >
          <el-radio-button value="ours" :label="ours" />
          <el-radio-button value="theirs" :label="theirs" />
          <el-radio-button value="both" label="Both" />
          <el-radio-button value="own" label="Type it…" />
        </el-radio-group>
        <el-input
          v-if="choices.get(at) === 'own'"
          type="textarea"
          class="own"
          :aria-label="`What shall stand at line ${lineOf(at)}`"
          :model-value="own.get(at)"
          :autosize="{ minRows: 2, maxRows: 10 }"
          @update:model-value="own.set(at, String($event))"
        />
      </fieldset>
    </template>
  </div>
</template>

<style scoped>
.merge-places {
  max-height: 56vh;
  overflow: auto;
  display: grid;
  gap: 8px;
}

.between {
  margin: 0;
  padding-left: 12px;
}

.place {
  margin: 0;
  padding: 8px 12px 12px;
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.place.open {
  border-color: var(--wait);
}

legend {
  padding: 0 6px;
  font-weight: 600;
}

.versions {
  display: grid;
  grid-template-columns: repeat(var(--versions), minmax(0, 1fr));
  gap: 8px;
  margin-bottom: 8px;
}

figure {
  margin: 0;
  min-width: 0;
}

pre {
  margin: 2px 0 0;
  padding: 6px 8px;
  max-height: 180px;
  overflow: auto;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font: 12.5px/1.5 var(--code);
  background: var(--sheet-sunk);
  border-radius: var(--radius);
}

.own {
  margin-top: 8px;
}

.own :deep(textarea) {
  font: 12.5px/1.5 var(--code);
}
</style>
