<script setup lang="ts">
/** The bench: the page as its reader sees it and its source, one of them or both; each follows the other. */
import { computed, nextTick, ref } from "vue";
import PaneSplitter from "../components/PaneSplitter.vue";
import { useChoices } from "../stores/choices";
import { useBench } from "../stores/bench";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { useJumps } from "../composables/useJumps";
import BenchBar from "./BenchBar.vue";
import PageBench from "./PageBench.vue";
import SourceBench from "./SourceBench.vue";

defineProps<{ locked: string }>();
const emit = defineEmits<{
  stop: [];
  discard: [];
  save: [];
  review: [];
  point: [];
  place: [start: number];
}>();
const bench = useBench();
const tray = useTray();
const opened = usePage();
const choices = useChoices();
const jumps = useJumps();
const source = ref<InstanceType<typeof SourceBench> | null>(null);
const page = ref<InstanceType<typeof PageBench> | null>(null);
const root = ref<HTMLElement | null>(null);

const sourceRoom = computed(() => {
  if (bench.layout !== "both") return undefined;
  return bench.stacked ? { height: `${bench.sourceHeight}px` } : { width: `${bench.sourceWidth}px` };
});
const along = computed({
  get: () => (bench.stacked ? bench.sourceHeight : bench.sourceWidth),
  set: (to) => {
    if (bench.stacked) bench.sourceHeight = to;
    else bench.sourceWidth = to;
  },
});

/** Go to a place in the source. */
async function goTo(line: number, column: number): Promise<void> {
  bench.show("source");
  await nextTick();
  source.value?.goTo(line, column);
}

/** Ask for the selected lines with their indentation put right. */
function tidy(): void {
  const chosen = source.value?.selection();
  if (chosen)
    void tray.propose({
      operation: "tidy",
      page: opened.path,
      first_line: chosen.line,
      last_line: chosen.end_column === 1 && chosen.end_line > chosen.line ? chosen.end_line - 1 : chosen.end_line,
    });
}

function focus(): void {
  if (bench.showsSource) source.value?.focus();
  else page.value?.focus();
}

/** Come out of the page's frame, whose keys are not ours. */
function leaveFrame(start: number): void {
  root.value?.querySelector<HTMLElement>(".point")?.focus();
  emit("place", start);
}

defineExpose({
  goTo,
  focus,
  place: () => source.value?.place() ?? null,
  selection: () => source.value?.selection() ?? null,
});
</script>

<template>
  <section ref="root" class="bench-pane" aria-label="Bench">
    <BenchBar
      :locked="locked"
      :selected="() => source?.selected() ?? ''"
      @insert="source?.insert($event)"
      @tidy="tidy"
      @stop="emit('stop')"
      @discard="emit('discard')"
      @save="emit('save')"
      @review="emit('review')"
      @point="emit('point')"
    />
    <div class="panes" :class="{ stacked: bench.stacked }">
      <div
        v-show="bench.showsSource"
        class="source"
        :class="{ alone: bench.layout === 'source' }"
        :style="sourceRoom"
      >
        <SourceBench ref="source" :in-sight="bench.showsSource" @save="emit('save')" />
      </div>
      <PaneSplitter
        v-if="bench.layout === 'both'"
        v-model="along"
        label="Room for the source"
        :least="140"
        :most="bench.stacked ? 620 : 1000"
        :stacked="bench.stacked"
      />
      <div v-if="bench.showsPage" class="page">
        <PageBench
          ref="page"
          @place="leaveFrame"
          @finding="goTo($event.line, $event.column)"
          @words="jumps.begin(choices.originOfWords($event.place, $event.words, $event.occurrence))"
        />
      </div>
    </div>
  </section>
</template>

<style scoped>
.bench-pane {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
  background: var(--sheet);
}

.panes {
  flex: 1;
  min-height: 0;
  min-width: 0;
  display: flex;
}

.panes.stacked {
  flex-direction: column;
}

.source {
  flex: none;
  min-width: 0;
  min-height: 0;
  max-width: 75%;
  border-right: 1px solid var(--line);
}

.stacked .source {
  max-width: none;
  max-height: 70%;
  border-right: 0;
  border-bottom: 1px solid var(--line);
}

.source.alone {
  flex: 1;
  max-width: none;
  max-height: none;
  border: 0;
}

.page {
  flex: 1;
  min-width: 0;
  min-height: 0;
}
</style>
