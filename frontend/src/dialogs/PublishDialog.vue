<script setup lang="ts">
/** Carrying the site to its readers: where to, what would be sent, and what readers get there then. */
import { computed, ref, shallowRef, watch } from "vue";
import {
  api,
  data,
  detailOf,
  told,
  type LiveView,
  type Published,
  type PublishPlan,
  type TargetView,
  type Told,
} from "../api/client";
import FilesToSend from "../publish/FilesToSend.vue";
import LiveResults from "../publish/LiveResults.vue";
import TargetForm, { type TargetDraft } from "../publish/TargetForm.vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { counted, sizeOf } from "../text/count";

const page = usePage();
const dialogs = useDialogs();
const targets = ref<TargetView[]>([]);
const name = ref("");
const adding = ref<"new" | "change" | null>(null);
const plan = shallowRef<PublishPlan | null>(null);
const live = shallowRef<LiveView | null>(null);
const anyway = ref(false);
const thorough = ref(false); // whether every file is read and compared
let stopping: AbortController | null = null;
const busy = ref("");
const progress = shallowRef<Told | null>(null);
const problem = ref("");
const done = ref("");
const path = { site_id: page.siteId };

const target = computed(() => targets.value.find((one) => one.name === name.value) ?? null);
const foreign = computed(() => plan.value?.steps.filter((step) => step.does === "foreign").length ?? 0);
const sent = computed(() => plan.value?.steps.filter((step) => step.does !== "foreign") ?? []);
const SEEN: [PublishPlan["steps"][number]["seen"], string][] = [
  ["missing", "is gone there"],
  ["altered", "was changed there"],
  ["torn", "is there in part only"],
];
/** How the target differs from what was put there last. */
const differing = computed(() =>
  SEEN.flatMap(([seen, words]) => {
    const number = plan.value?.steps.filter((step) => step.seen === seen).length ?? 0;
    return number
      ? [
          `${counted(number, "file")} ${number === 1 ? words : words.replace(/^(is|was)/, (verb) => (verb === "is" ? "are" : "were"))}`,
        ]
      : [];
  }).join(", "),
);
const bytes = computed(() => sent.value.reduce((sum, step) => sum + step.size, 0));
const redirects = (form: string) =>
  `/api/sites/${encodeURIComponent(page.siteId)}/targets/redirects?${new URLSearchParams({ name: name.value, form })}`;

const close = () => dialogs.close();

const tell = (how: Told) => (progress.value = how);

/** Do something that takes a while, and say what goes wrong. */
async function run(words: string, work: (signal: AbortSignal) => Promise<void>): Promise<void> {
  busy.value = words;
  problem.value = "";
  stopping = new AbortController();
  const { signal } = stopping;
  try {
    await work(signal);
  } catch (error) {
    if (!signal.aborted) problem.value = detailOf(error);
  } finally {
    busy.value = "";
    progress.value = null;
  }
}

function take(found: TargetView[], chosen = ""): void {
  targets.value = found;
  name.value = chosen || (found.some((one) => one.name === name.value) ? name.value : (found[0]?.name ?? ""));
  adding.value = found.length ? null : "new";
}

const look = () =>
  run("Comparing…", async () => {
    plan.value = live.value = null;
    if (!target.value) return;
    const query = { name: name.value, anyway: anyway.value, thorough: thorough.value };
    const answer = api.POST("/api/sites/{site_id}/targets/plan", { params: { path, query }, parseAs: "stream" });
    plan.value = await told<PublishPlan>(answer, tell);
  });
watch([name, anyway], () => {
  thorough.value = false;
  return look();
});

/** Have every file read and compared once. */
async function compareAll(): Promise<void> {
  thorough.value = true;
  await look();
}
void run("Reading the targets…", async () =>
  take(await data(api.GET("/api/sites/{site_id}/targets", { params: { path } }))),
);

const add = (draft: TargetDraft) =>
  run("Keeping the target…", async () => {
    const was = adding.value === "change" ? name.value : "";
    const body = { ...draft, secret: draft.secret || null, was };
    take(await data(api.PUT("/api/sites/{site_id}/targets", { params: { path }, body })), draft.name.trim());
    await look();
  });

const forget = () =>
  run("Forgetting the target…", async () =>
    take(await data(api.DELETE("/api/sites/{site_id}/targets", { params: { path, query: { name: name.value } } }))),
  );

const publish = () =>
  run("Sending…", async () => {
    if (!plan.value) return;
    const body = { name: name.value, tag: plan.value.tag, anyway: anyway.value, thorough: thorough.value };
    const answer = api.POST("/api/sites/{site_id}/targets/publish", { params: { path }, body, parseAs: "stream" });
    const found = await told<Published>(answer, tell);
    done.value = `${counted(found.sent, "file")} sent and read back, ${found.deleted} deleted.${notDone(found)}`;
    anyway.value = thorough.value = false;
    take(await data(api.GET("/api/sites/{site_id}/targets", { params: { path } })), name.value);
    await look();
  });

const undo = () =>
  run("Going back…", async () => {
    const params = { path, query: { name: name.value } };
    const answer = api.POST("/api/sites/{site_id}/targets/undo", { params, parseAs: "stream" });
    const found = await told<Published>(answer, tell);
    const what = `${counted(found.sent, "file")} sent, ${found.deleted} deleted.${notDone(found)}`;
    done.value = notDone(found) ? what : `The state before is there again: ${what}`;
    take(await data(api.GET("/api/sites/{site_id}/targets", { params: { path } })), name.value);
    await look();
  });

/** What of a publication did not come about, in words. */
function notDone(found: Published): string {
  const wrong = found.wrong.length
    ? ` Not put there, since they did not read back as sent: ${found.wrong.join(", ")}.`
    : "";
  return (
    wrong + (found.left.length ? ` Changed there meanwhile, and left as they are: ${found.left.join(", ")}.` : "")
  );
}

const walking = ref(false);
const walk = () =>
  run("Asking for every file as a reader would…", async (signal) => {
    const params = { path, query: { name: name.value } };
    walking.value = true;
    try {
      const answer = api.POST("/api/sites/{site_id}/targets/walk", { params, parseAs: "stream", signal });
      live.value = await told<LiveView>(answer, tell);
    } catch (error) {
      // what was found so far is kept
      live.value = await data(api.GET("/api/sites/{site_id}/targets/walk", { params }));
      throw error;
    } finally {
      walking.value = false;
    }
  });
const stop = () => stopping?.abort();
</script>

<template>
  <el-dialog :model-value="true" title="Publish" width="760" align-center append-to-body @close="close">
    <div class="where">
      <el-select
        v-if="targets.length"
        v-model="name"
        aria-label="Where to"
        style="width: 300px"
        :disabled="Boolean(busy)"
      >
        <el-option v-for="one in targets" :key="one.name" :value="one.name" :label="one.name" />
      </el-select>
      <span v-if="target" class="soft small address">{{ target.live || target.address }}</span>
      <span class="fill" />
      <el-button v-if="target" text size="small" @click="adding = adding === 'change' ? null : 'change'"
        >Change…</el-button
      >
      <el-button v-if="targets.length" text size="small" @click="adding = adding === 'new' ? null : 'new'"
        >New target…</el-button
      >
    </div>

    <TargetForm
      v-if="adding !== null"
      :key="adding"
      :target="adding === 'change' ? target : null"
      :busy="Boolean(busy)"
      @keep="add"
    />

    <div v-if="busy" class="busy" role="status">
      <span class="soft">{{ progress ? `${progress.what}…` : busy }}</span>
      <el-progress v-if="progress" :percentage="Math.floor((100 * progress.done) / Math.max(progress.total, 1))" />
      <el-button v-if="walking" size="small" class="stop" @click="stop">Stop</el-button>
    </div>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" role="alert" show-icon />
    <el-alert v-if="done && !busy" :title="done" type="success" :closable="false" role="status" />

    <template v-if="plan && target && !busy">
      <p v-if="!sent.length">
        {{
          foreign
            ? "Nothing else is to be sent."
            : thorough
              ? "Nothing to send: every byte there is as it is here."
              : "Nothing to send: it has all that is here, by what it tells of sizes and times."
        }}
        <el-button v-if="!thorough && target.publications" size="small" text @click="compareAll"
          >Compare every byte</el-button
        >
      </p>
      <p v-else>
        <strong>{{ counted(sent.length, "file") }}</strong>, {{ sizeOf(bytes) }}. Pages are sent last, after what they
        need.
        <template v-if="differing">{{ differing }}.</template>
      </p>
      <el-checkbox v-if="foreign || anyway" v-model="anyway"
        >Replace what is there but was not published from here, or was changed there</el-checkbox
      >
      <FilesToSend v-if="plan.steps.length" :key="plan.tag" :steps="plan.steps" :target="name" />
      <p v-if="target.publications" class="soft small">
        Redirects from where pages were at the last publication:
        <a :href="redirects('csv')">table</a>, <a :href="redirects('pairs')">pairs</a>,
        <a :href="redirects('apache')">Apache</a>, <a :href="redirects('nginx')">nginx</a>
      </p>
    </template>

    <LiveResults
      v-if="live && !busy"
      :live="live"
      :site-id="page.siteId"
      :published-at="target?.published_at ?? null"
      @close="close"
      @again="walk"
    />

    <template #footer>
      <span class="foot">
        <el-button v-if="target?.publications" text :disabled="Boolean(busy)" @click="undo"
          >Undo the last publication</el-button
        >
        <el-popconfirm v-if="target" title="Forget this target? What is there stays." :width="240" @confirm="forget">
          <template #reference><el-button text :disabled="Boolean(busy)">Forget…</el-button></template>
        </el-popconfirm>
        <span class="fill" />
        <el-button v-if="target?.live && target.publications" :disabled="Boolean(busy)" @click="walk"
          >Check the live site</el-button
        >
        <el-button type="primary" :disabled="!sent.length || Boolean(busy)" @click="publish">Publish</el-button>
      </span>
    </template>
  </el-dialog>
</template>

<style scoped>
.where,
.foot {
  display: flex;
  align-items: center;
  gap: 10px;
}

.address {
  overflow-wrap: anywhere;
}

.fill {
  flex: 1;
}

.stop {
  justify-self: start;
}

.busy {
  display: grid;
  gap: 4px;
}

.el-alert {
  margin-top: 10px;
}

p {
  margin: 8px 0;
}

a {
  color: var(--post);
}
</style>
