<script setup lang="ts">
/** How parts are made: links between them, file names, contents, how old links lead on; limits of their length. */
import { computed, reactive, watch } from "vue";
import { useDialogs } from "../stores/dialogs";
import { useParts } from "../stores/parts";
import { counted } from "../text/count";

defineProps<{ unable: boolean }>();
const open = defineModel<boolean>({ required: true });
const parts = useParts();
const dialogs = useDialogs();
const limits = reactive({ least_words: 0, most_words: 0, most_windows: 0 });

watch(open, () => Object.assign(limits, parts.view?.limits));

const LINKS = [
  { value: "numbers", words: "Numbers: Part 1 2 3" },
  { value: "titles", words: "A list of numbers with titles" },
  { value: "none", words: "Neither" },
] as const;
const PATTERNS = ["{page}-{number}", "{page}/{number}", "{title}", "{page}-{title}"];
const CONTENTS = [
  { value: "first", words: "The first part lists all sections" },
  { value: "own", words: "Each part also lists its own" },
  { value: "all", words: "Each part lists all sections" },
];
const FORWARD = [
  { value: "script", words: "A few lines of script go there at once" },
  { value: "note", words: "A line says so where the link leads, without script" },
  { value: "list", words: "A list of all moved sections, always shown" },
];
const LIMITS = [
  { key: "least_words", words: "At least, words", step: 100 },
  { key: "most_words", words: "At most, words", step: 250 },
  { key: "most_windows", words: "At most, windows", step: 1 },
] as const;

const patterns = computed(() => [...new Set([...PATTERNS, parts.options?.pattern ?? ""])].filter(Boolean));
const overview = computed({
  get: () => (["titles", "numbers"] as const).find((one) => parts.options?.links.includes(one)) ?? "none",
  set: (value) => setLinks(["numbers", "titles"], value === "none" ? [] : [value]),
});
const neighbours = computed({
  get: () => parts.options?.links.includes("neighbours") ?? false,
  set: (value) => setLinks(["neighbours"], value ? ["neighbours"] : []),
});
const where = computed({
  get: () => (parts.options?.links ?? []).filter((one) => one === "top" || one === "bottom"),
  set: (value) => value.length && setLinks(["top", "bottom"], value),
});
function setLinks(instead: string[], value: string[]): void {
  parts.choose({ links: [...(parts.options?.links ?? []).filter((one) => !instead.includes(one)), ...value].sort() });
}
const forward = computed({
  get: () => parts.options?.forward ?? [],
  set: (value) => parts.choose({ forward: [...value].sort() }),
});
const example = computed(() => parts.there.slice(1, 3).map((part) => part.path));
const number = (value: unknown) => Number(value) || 0;

async function keep(): Promise<void> {
  await parts.saveForSite({
    least_words: number(limits.least_words),
    most_words: number(limits.most_words),
    most_windows: number(limits.most_windows),
  });
}
</script>

<template>
  <el-drawer v-model="open" title="How parts are made" size="400" append-to-body>
    <el-form v-if="parts.options" label-position="top" @submit.prevent>
      <el-form-item label="Links between the parts">
        <el-radio-group v-model="overview" class="stacked">
          <el-radio v-for="one in LINKS" :key="one.value" :value="one.value">{{ one.words }}</el-radio>
        </el-radio-group>
        <el-checkbox v-model="neighbours">Previous and next, by title</el-checkbox>
      </el-form-item>
      <el-form-item label="They are at">
        <el-checkbox-group v-model="where">
          <el-checkbox value="top">the top</el-checkbox>
          <el-checkbox value="bottom">the bottom</el-checkbox>
        </el-checkbox-group>
        <el-button link type="primary" @click="dialogs.show({ name: 'style' })">Their look…</el-button>
      </el-form-item>
      <el-form-item label="File names">
        <el-select
          :model-value="parts.options.pattern"
          filterable
          allow-create
          default-first-option
          aria-label="Pattern of the file names"
          @update:model-value="parts.choose({ pattern: String($event) })"
        >
          <el-option v-for="pattern in patterns" :key="pattern" :value="pattern" />
        </el-select>
        <p class="soft small">
          {page} is the page's own name, {number} the part's, {title} its title.
          <template v-if="example.length">Now: {{ example.join(", ") }}.</template>
        </p>
      </el-form-item>
      <el-form-item label="Contents">
        <el-radio-group
          :model-value="parts.options.contents"
          class="stacked"
          @update:model-value="parts.choose({ contents: String($event) })"
        >
          <el-radio v-for="one in CONTENTS" :key="one.value" :value="one.value">{{ one.words }}</el-radio>
        </el-radio-group>
      </el-form-item>
      <el-form-item
        :label="
          parts.view?.moved
            ? `Links to ${counted(parts.view.moved, 'identifier')} that leave this page lead on`
            : 'Links to what leaves this page lead on'
        "
      >
        <el-checkbox-group v-model="forward" class="stacked">
          <el-checkbox v-for="one in FORWARD" :key="one.value" :value="one.value">{{ one.words }}</el-checkbox>
        </el-checkbox-group>
      </el-form-item>
      <el-form-item label="Headings">
        <el-checkbox
          :model-value="parts.options.raise_levels"
          @update:model-value="parts.choose({ raise_levels: Boolean($event) })"
          >Raise those that a part starts with to the second level</el-checkbox
        >
      </el-form-item>
      <fieldset>
        <legend>Limits for parts, 0 for none</legend>
        <div class="limits">
          <el-form-item v-for="one in LIMITS" :key="one.key" :label="one.words">
            <el-input-number
              v-model="limits[one.key]"
              size="small"
              :min="0"
              :step="one.step"
              controls-position="right"
            />
          </el-form-item>
        </div>
      </fieldset>
      <div class="drawer-foot">
        <el-button @click="keep">Keep names and limits for the site</el-button>
        <el-button type="primary" @click="open = false">Done</el-button>
      </div>
    </el-form>
  </el-drawer>
</template>

<style scoped>
.stacked {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}

.el-form-item p {
  line-height: 1.4;
}

fieldset {
  margin: 0;
  padding: 8px 0 0;
  border: 0;
  border-top: 1px solid var(--line);
}

legend {
  padding: 0 8px 0 0;
  color: var(--ink-soft);
}

.limits {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
</style>
