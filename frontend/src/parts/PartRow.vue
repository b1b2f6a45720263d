<script setup lang="ts">
/** The head of a part in the ledger: its number, title and file, how long it is, what can be done with its cut. */
import { computed, ref } from "vue";
import type { PartView } from "../api/client";
import EditField from "../ledger/EditField.vue";
import { useParts } from "../stores/parts";
import { counted } from "../text/count";

const props = defineProps<{ part: PartView; locked: boolean }>();
const parts = useParts();
const editing = ref<"title" | "path" | null>(null);

const cut = computed(() => parts.cuts.find((one) => one.at === props.part.at));
const isKept = computed(() => parts.kept.has(props.part.at));
const leadBlocks = computed(
  () => (parts.view?.places ?? []).filter((place) => place.section === null && place.within < 0).length,
);
const shown = computed(() => (props.part.untitled ? "Give this part a title…" : props.part.title));
const last = computed(() => props.part.number === parts.there.length);
const BEYOND: Record<string, string> = { long: "too long", short: "too short" };
const facts = computed(() =>
  [
    `${props.part.words.toLocaleString("en")} words`,
    `${Math.max(Math.round(props.part.minutes), 1)} min`,
    `${props.part.windows.toFixed(1)} windows`,
    `${Math.round(props.part.share * 100)} %`,
  ].join(" · "),
);
const crossing = computed(
  () => `${counted(props.part.crossing, "link")} ${props.part.crossing === 1 ? "crosses" : "cross"} this cut`,
);
const range = computed(() => {
  const sections = parts.view?.sections ?? [];
  const [first, end] = [props.part.first, props.part.last].map((at) =>
    at === null ? "" : (sections[at]?.text ?? ""),
  );
  return first && end && first !== end ? `${first} … ${end}` : (first ?? "");
});

function finish(what: "title" | "path", value: string): void {
  editing.value = null;
  if (value !== (what === "title" ? props.part.title : props.part.path)) parts.say(props.part.at, { [what]: value });
}

function act(what: string): void {
  if (what === "keep") parts.keep(props.part.at);
  else if (what === "remove") parts.toggle(props.part.at);
  else if (what === "earlier") parts.step(props.part.at, -1);
  else if (what === "later") parts.step(props.part.at, 1);
  else if (what === "up") parts.shift(props.part.number, -1);
  else if (what === "down") parts.shift(props.part.number, 1);
}
</script>

<template>
  <tr class="part" :class="{ first: part.number === 1 }">
    <td class="badge">
      <span>{{ part.number }}</span>
    </td>
    <th scope="rowgroup" colspan="5">
      <div class="line">
        <EditField
          v-if="editing === 'title'"
          :value="part.untitled ? '' : part.title"
          :label="`Title of part ${part.number}`"
          @done="finish('title', $event)"
          @leave="editing = null"
        />
        <el-button
          v-else-if="cut && !locked"
          text
          size="small"
          class="title"
          :class="{ wait: part.untitled }"
          :aria-label="`Title of part ${part.number}: ${shown}`"
          title="Change the title"
          @click="editing = 'title'"
          >{{ shown }}</el-button
        >
        <strong v-else class="title still">{{ part.title }}</strong>
        <span v-if="isKept" class="soft small">stays</span>
        <span v-if="part.number > 1" class="soft small crossing">{{ crossing }}</span>
      </div>
      <div class="line small">
        <EditField
          v-if="editing === 'path'"
          code
          :value="part.path"
          :label="`File of part ${part.number}`"
          @done="finish('path', $event)"
          @leave="editing = null"
        />
        <el-button
          v-else-if="cut && !locked"
          text
          size="small"
          class="path"
          :aria-label="`File of part ${part.number}: ${part.path}`"
          title="Change the file name"
          @click="editing = 'path'"
          >{{ part.path }}</el-button
        >
        <code v-else class="path still">{{ part.path }}</code>
        <span class="soft facts" :title="range">{{ facts }}</span>
        <span v-if="part.beyond" class="wait">{{ BEYOND[part.beyond] }}</span>
      </div>
      <div v-if="parts.alone && range" class="small soft range">{{ range }}</div>
    </th>
    <td class="more">
      <el-button
        v-if="part.number === 1 && leadBlocks && !parts.alone"
        text
        size="small"
        tabindex="-1"
        :aria-expanded="parts.opened.has(-1)"
        aria-label="Places for cuts before the first section"
        :title="`Cut before the first section: ${leadBlocks} places`"
        @click="parts.open(-1)"
        >{{ parts.opened.has(-1) ? "−" : "+" }}</el-button
      >
      <el-dropdown v-if="cut" trigger="click" placement="bottom-end" @command="act">
        <el-button text size="small" :aria-label="`What can be done with part ${part.number}`">⋯</el-button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item command="earlier">Begin at the section before</el-dropdown-item>
            <el-dropdown-item command="later">Begin at the section after</el-dropdown-item>
            <el-dropdown-item command="keep">{{
              isKept ? "Let proposals move this cut" : "Keep this cut in proposals"
            }}</el-dropdown-item>
            <el-dropdown-item command="remove">Remove this cut</el-dropdown-item>
            <template v-if="parts.inParts && !parts.changed">
              <el-dropdown-item command="up" divided :disabled="part.number < 3">Move part up</el-dropdown-item>
              <el-dropdown-item command="down" :disabled="last">Move part down</el-dropdown-item>
            </template>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </td>
  </tr>
</template>

<style scoped>
tr > * {
  padding: 5px 4px 4px;
  border-bottom: 1px solid var(--line);
  background: var(--post-wash);
  text-align: left;
}

tr.part:not(.first) > * {
  border-top: 2px dashed var(--wait);
}

.badge {
  width: 34px;
  padding-left: 8px;
  vertical-align: top;
}

.badge span {
  display: inline-block;
  min-width: 22px;
  padding: 2px 4px;
  border-radius: 4px;
  background: var(--post);
  color: var(--post-ink);
  font-size: 12.5px;
  font-weight: 650;
  font-variant-numeric: tabular-nums;
  text-align: center;
}

.line {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 22px;
  min-width: 0;
}

.line form {
  flex: 1;
}

.title {
  max-width: 100%;
  padding: 0 4px;
  margin-left: -4px;
  font: 600 13.5px/1.4 var(--read);
  color: var(--ink);
}

.title.wait {
  color: var(--wait);
}

.title :deep(span) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.path {
  flex: none;
  max-width: 45%;
  padding: 0 4px;
  margin-left: -4px;
  height: 20px;
  font: 12px/1.4 var(--code);
  color: var(--plate);
}

.still {
  margin-left: 0;
  padding: 0;
}

.path :deep(span) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.facts {
  font-weight: 400;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
}

.crossing {
  margin-left: auto;
  flex: none;
  font-weight: 400;
}

.range {
  font-weight: 400;
}

.more {
  width: 36px;
  padding: 0;
  text-align: center;
}
</style>
