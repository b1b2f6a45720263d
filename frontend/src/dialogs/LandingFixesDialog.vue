<script setup lang="ts">
/** What would fix bad landings: each fix shows what it does, measured again in every window, before it is applied. */
import { computed, onMounted, reactive, ref, watch } from "vue";
import { detailOf, type LandingFixesView, type MeasureView, type NamedWindow } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

interface Effect {
  named: NamedWindow;
  before: MeasureView;
  after: MeasureView;
}

const page = usePage();
const measures = useMeasures();
const choices = useChoices();
const tray = useTray();
const dialogs = useDialogs();
const found = ref<LandingFixesView | null>(null);
const wants = reactive({ room: false, below: false, mark: false });
const lengths = reactive({ bar: 4, below: 50 });
const effects = ref<Effect[]>([]);
const busy = ref(false);
const problem = ref("");
let asked = 0;

const style = computed(() => {
  const base = found.value?.style;
  if (!base) return null;
  const added = (["room", "below", "mark"] as const).filter((part) => wants[part]);
  return {
    ...base,
    parts: [...new Set([...base.parts, ...added])],
    bar: wants.room ? Number(lengths.bar) || 0 : base.bar,
    below: wants.below ? Number(lengths.below) || 0 : base.below,
  };
});
const chosen = computed(() => wants.room || wants.below || wants.mark);
const count = (view: MeasureView, ...verdicts: string[]) =>
  [...view.landings, ...view.incoming].filter(
    (landing) => landing.trouble && landing.to_page === page.path && verdicts.includes(landing.verdict),
  ).length;
const words = (view: MeasureView) => {
  const low = count(view, "short");
  const covered = count(view, "covered");
  return (
    [low ? `${low} too low` : "", covered ? `${covered} covered` : ""].filter(Boolean).join(", ") || "all land well"
  );
};

/** Measure the page again with the fixes that are ticked. */
async function show(): Promise<void> {
  const mine = ++asked;
  if (!style.value) return;
  busy.value = true;
  problem.value = "";
  try {
    const css = chosen.value ? await choices.styleText(style.value) : "";
    const list: Effect[] = [];
    for (const named of measures.windows) {
      const before =
        effects.value.find((effect) => effect.named === named)?.before ?? (await measures.tryOut(named.window, ""));
      const after = css ? await measures.tryOut(named.window, css) : before;
      if (mine !== asked) return;
      list.push({ named, before, after });
      effects.value = [...list, ...effects.value.slice(list.length)]; // each as it comes
    }
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  } finally {
    if (mine === asked) busy.value = false;
  }
}

onMounted(async () => {
  try {
    found.value = await choices.fixes();
  } catch (error) {
    problem.value = detailOf(error);
    return;
  }
  const { fixes, style: kept } = found.value;
  Object.assign(lengths, { bar: fixes.room ?? kept.bar, below: fixes.below ?? kept.below });
  Object.assign(wants, {
    room: fixes.room !== null, // room below is ticked by its author alone, perhaps by now
    mark: fixes.below !== null && fixes.room === null,
  });
  await show();
});
watch([wants, lengths], () => {
  if (found.value) void show();
});

function go(): void {
  if (!style.value) return;
  void tray.propose({ operation: "style", page: page.path, ...style.value });
  dialogs.close();
}
</script>

<template>
  <AskDialog
    title="Fix landings"
    does="Show the edits"
    :able="chosen && found !== null && found.reaches"
    :width="640"
    :problem="problem"
    @go="go"
  >
    <p v-if="found && !found.reaches" role="note" class="wait">
      {{ page.path }} does not load {{ found.sheet ?? "a style sheet that the site shares" }}, so a rule there would
      not reach it. Link that sheet from the page first.
    </p>
    <div class="fixes" role="group" aria-label="Fixes">
      <div class="fix">
        <el-checkbox v-model="wants.room"><strong>Room above</strong> a landing, for a bar at the top</el-checkbox>
        <el-input-number
          v-model="lengths.bar"
          size="small"
          controls-position="right"
          :min="0"
          :max="40"
          :step="0.5"
          aria-label="Room above, in rem"
          :disabled="!wants.room"
        />
        rem
      </div>
      <div class="fix">
        <el-checkbox v-model="wants.below"
          ><strong>Room below</strong> the last section, so it can come up</el-checkbox
        >
        <el-input-number
          v-model="lengths.below"
          size="small"
          controls-position="right"
          :min="0"
          :max="100"
          aria-label="Room below, in percent of the window"
          :disabled="!wants.below"
        />
        % of the window
      </div>
      <el-checkbox v-model="wants.mark"><strong>A mark</strong> on the section that was reached</el-checkbox>
    </div>
    <table :aria-busy="busy">
      <thead>
        <tr>
          <th scope="col">Window</th>
          <th scope="col">Now, on this page</th>
          <th scope="col">With the fixes, measured</th>
          <th scope="col" class="number">Longer by</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="effect in effects" :key="effect.named.name">
          <th scope="row">
            {{ effect.named.name }}
            <span class="soft small">{{ effect.named.window.width }} × {{ effect.named.window.height }}</span>
          </th>
          <td>{{ words(effect.before) }}</td>
          <td :class="{ soft: busy }">
            {{ chosen ? words(effect.after) : ""
            }}<template v-if="chosen && wants.mark && words(effect.after) !== 'all land well'">, marked</template>
          </td>
          <td class="number">
            {{ chosen ? `${(effect.after.windows - effect.before.windows).toFixed(1)} windows` : "" }}
          </td>
        </tr>
        <tr v-if="!effects.length">
          <td colspan="4" class="soft">Measuring…</td>
        </tr>
      </tbody>
    </table>
    <p class="soft small">
      The rules go into the reading style, in {{ found?.sheet ?? "a new style sheet" }}, for all pages that load it.
      To accept a landing as it is, press “Accept” in its row.
    </p>
  </AskDialog>
</template>

<style scoped>
.fixes {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.fix {
  display: flex;
  align-items: center;
  gap: 8px;
}

.fix .el-checkbox {
  margin-right: 0;
}

.wait {
  color: var(--wait);
}

table {
  width: 100%;
  border-collapse: collapse;
}

th,
td {
  text-align: left;
  padding: 4px 6px;
  border-bottom: 1px solid var(--line);
  font-weight: 400;
}

thead th {
  font-size: 12px;
  font-weight: 600;
  color: var(--ink-soft);
}

.number {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
</style>
