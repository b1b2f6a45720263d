<script setup lang="ts">
/** How a site is checked: its rules, when a page is long, what is set aside, and the file that says so. */
import { computed, ref, watch } from "vue";
import type { AsideView, RuleView, Schemas } from "../api/client";
import PickOne from "../components/PickOne.vue";
import { useChecks } from "../stores/checks";
import { counted } from "../text/count";

const props = defineProps<{ siteId: string; locked?: boolean }>();
const emit = defineEmits<{ saved: []; write: [] }>();
const open = defineModel<boolean>({ required: true });

type Severity = Schemas["Severity"];
const SEVERITIES: { value: Severity; words: string }[] = [
  { value: "error", words: "error" },
  { value: "warning", words: "warning" },
  { value: "advice", words: "advice" },
];
const checks = useChecks();
const tab = ref("rules");
const query = ref("");
const on = ref<Record<string, boolean>>({});
const severities = ref<Record<string, Severity>>({});
const limits = ref({ sections: 6, windows: 5 });
const leftOut = ref("");
const busy = ref(false);

watch(open, (now) => {
  if (now) void checks.load(props.siteId);
});
watch(
  () => checks.view,
  (view) => {
    if (!view) return;
    on.value = Object.fromEntries(view.rules.map((rule) => [rule.code, rule.on]));
    severities.value = Object.fromEntries(view.rules.map((rule) => [rule.code, rule.severity]));
    limits.value = { ...view.limits };
    leftOut.value = view.left_out.join("\n");
  },
);

const found = computed(() => {
  const words = query.value.trim().toLowerCase();
  return (checks.view?.rules ?? []).filter(
    (rule) => !words || `${rule.title} ${rule.code} ${rule.why}`.toLowerCase().includes(words),
  );
});
const lines = computed(() =>
  leftOut.value
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean),
);
const changed = computed(() => {
  const view = checks.view;
  if (!view) return false;
  const rules = view.rules.some(
    (rule) => on.value[rule.code] !== rule.on || severities.value[rule.code] !== rule.severity,
  );
  const { sections, windows } = view.limits;
  const long = limits.value.sections !== sections || limits.value.windows !== windows;
  return rules || long || lines.value.join("\n") !== view.left_out.join("\n");
});

async function save(): Promise<void> {
  busy.value = true;
  const body = {
    on: Object.keys(on.value).filter((code) => on.value[code]),
    severities: severities.value,
    limits: limits.value,
    left_out: lines.value,
  };
  if (await checks.save(props.siteId, body)) emit("saved");
  busy.value = false;
}

async function takeBack(aside: AsideView): Promise<void> {
  if (await checks.takeBack(props.siteId, aside)) emit("saved");
}

/** Where what is set aside is, in words. */
function whereOf(aside: AsideView): string {
  if (!aside.page) return "everywhere";
  return aside.words ? aside.page : `all on ${aside.page}`;
}

const usual = (rule: RuleView) => rule.off && `off unless you switch it on: ${rule.off}`;
</script>

<template>
  <el-drawer v-model="open" title="How pages are checked" size="600" append-to-body>
    <el-alert v-if="checks.problem" :title="checks.problem" type="error" :closable="false" role="alert" show-icon />
    <el-alert
      v-if="checks.view?.problem"
      :title="checks.view.problem"
      type="warning"
      :closable="false"
      role="alert"
      show-icon
    />
    <el-tabs v-model="tab" class="tabs">
      <el-tab-pane label="Rules" name="rules">
        <el-input v-model="query" clearable placeholder="Find a rule" aria-label="Find a rule" />
        <ul class="rules" aria-label="Rules">
          <li v-for="rule in found" :key="rule.code">
            <el-switch v-model="on[rule.code]" size="small" :aria-label="rule.title" />
            <div class="rule">
              <p>
                <strong>{{ rule.title }}</strong> <code class="soft">{{ rule.code }}</code>
                <span v-if="usual(rule)" class="soft small"> {{ usual(rule) }}</span>
              </p>
              <p class="soft small">{{ rule.why }}</p>
            </div>
            <PickOne
              :model-value="severities[rule.code] ?? rule.severity"
              :choices="SEVERITIES"
              :label="`Severity of: ${rule.title}`"
              :width="98"
              @update:model-value="severities[rule.code] = $event"
            />
          </li>
        </ul>
      </el-tab-pane>
      <el-tab-pane :label="`Set aside (${checks.view?.aside.length ?? 0})`" name="aside">
        <el-empty v-if="!checks.view?.aside.length" :image-size="48" description="Nothing is set aside." />
        <ul class="rules" aria-label="Set aside">
          <li v-for="aside in checks.view?.aside" :key="`${aside.rule} ${aside.page} ${aside.words}`">
            <div class="rule">
              <p>
                <strong>{{ aside.title }}</strong> <span class="soft">{{ whereOf(aside) }}</span>
              </p>
              <p v-if="aside.words" class="small words">
                <code>{{ aside.words }}</code>
              </p>
              <p v-if="aside.reason" class="small">{{ aside.reason }}</p>
            </div>
            <span v-if="aside.in_file" class="soft small">in signpost.toml</span>
            <el-button v-else size="small" @click="takeBack(aside)">Take back</el-button>
          </li>
        </ul>
      </el-tab-pane>
      <el-tab-pane label="Limits" name="limits">
        <el-form label-position="top" @submit.prevent="save">
          <p>A page is long, and wants contents and ways back, from</p>
          <p class="pair">
            <el-form-item label="Sections"
              ><el-input-number v-model="limits.sections" :min="1" :max="1000" controls-position="right"
            /></el-form-item>
            <el-form-item label="and windows"
              ><el-input-number v-model="limits.windows" :min="0" :max="1000" :step="0.5" controls-position="right"
            /></el-form-item>
          </p>
          <el-form-item label="Folders and pages that are not checked, one a line">
            <el-input v-model="leftOut" type="textarea" :rows="4" spellcheck="false" />
          </el-form-item>
        </el-form>
      </el-tab-pane>
    </el-tabs>
    <template #footer>
      <div class="foot">
        <el-button :disabled="locked || changed || !checks.view" @click="emit('write')">{{
          checks.view?.has_file ? "Update signpost.toml…" : "Write signpost.toml…"
        }}</el-button>
        <span class="soft small">so that the command and others check alike</span>
        <el-button type="primary" :disabled="!changed || busy" @click="save">Save</el-button>
      </div>
      <span class="unseen" role="status">{{
        checks.view ? counted(checks.view.rules.filter((rule) => rule.on).length, "rule") + " on" : ""
      }}</span>
    </template>
  </el-drawer>
</template>

<style scoped>
.rules {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}

.rules li {
  display: flex;
  align-items: flex-start;
  gap: 12px;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
}

.rule {
  flex: 1;
  min-width: 0;
}

.rule code {
  font-size: 12px;
}

.words {
  overflow-wrap: anywhere;
}

.pair {
  display: flex;
  gap: 16px;
  padding-top: 8px;
}

.foot {
  display: flex;
  align-items: center;
  gap: 10px;
}

.foot .soft {
  flex: 1;
  text-align: left;
}
</style>
