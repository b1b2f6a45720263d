<script setup lang="ts">
/** Carrying the site to its readers: where to, what would be sent, and what readers get there then. */
import { computed, ref, shallowRef, watch } from "vue";
import { RouterLink } from "vue-router";
import { api, data, detailOf, type LiveView, type PublishPlan, type TargetView } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { counted } from "../text/count";

type Kind = TargetView["kind"];
type Step = PublishPlan["steps"][number];

const KINDS: { value: Kind; label: string; address: string; example: string }[] = [
  { value: "practice", label: "Practice host", address: "", example: "" },
  { value: "folder", label: "Folder", address: "Folder on this computer", example: "/home/me/www" },
  { value: "webdav", label: "WebDAV", address: "Address of the folder", example: "https://host.example/dav/site" },
  { value: "sftp", label: "SFTP", address: "Address of the folder", example: "sftp://host.example/www" },
];
const DOES: Record<Step["does"], string> = {
  send: "new",
  replace: "replaced",
  delete: "deleted there",
  foreign: "not from here; stays",
};
const page = usePage();
const dialogs = useDialogs();
const targets = ref<TargetView[]>([]);
const name = ref("");
const adding = ref(false);
const draft = ref({ name: "", kind: "practice" as Kind, address: "", user_name: "", live: "", secret: "" });
const plan = shallowRef<PublishPlan | null>(null);
const live = shallowRef<LiveView | null>(null);
const anyway = ref(false);
const busy = ref("");
const problem = ref("");
const done = ref("");
const path = { site_id: page.siteId };

const target = computed(() => targets.value.find((one) => one.name === name.value) ?? null);
const kind = computed(() => KINDS.find((one) => one.value === draft.value.kind)!);
const remote = computed(() => draft.value.kind === "webdav" || draft.value.kind === "sftp");
const foreign = computed(() => plan.value?.steps.filter((step) => step.does === "foreign").length ?? 0);
const sent = computed(() => plan.value?.steps.filter((step) => step.does !== "foreign") ?? []);
const bytes = computed(() => sent.value.reduce((sum, step) => sum + step.size, 0));
const sizeOf = (size: number) =>
  size < 10_000 ? `${size} bytes` : `${Math.round(size / 1000).toLocaleString("en")} kB`;
const redirects = (form: string) =>
  `/api/sites/${encodeURIComponent(page.siteId)}/targets/redirects?${new URLSearchParams({ name: name.value, form })}`;

const wordsOf = (step: Step) => DOES[step.does];
const placeOf = (one: LiveView["findings"][number]) => ({
  name: "page",
  params: { siteId: page.siteId, path: one.path },
  query: one.line ? { line: String(one.line) } : {},
});
const close = () => dialogs.close();

/** Do something that takes a while, and say what goes wrong. */
async function run(words: string, work: () => Promise<void>): Promise<void> {
  busy.value = words;
  problem.value = "";
  try {
    await work();
  } catch (error) {
    problem.value = detailOf(error);
  } finally {
    busy.value = "";
  }
}

function take(found: TargetView[], chosen = ""): void {
  targets.value = found;
  name.value = chosen || (found.some((one) => one.name === name.value) ? name.value : (found[0]?.name ?? ""));
  adding.value = !found.length;
}

const look = () =>
  run("Comparing…", async () => {
    plan.value = live.value = null;
    if (!target.value) return;
    const query = { name: name.value, anyway: anyway.value };
    plan.value = await data(api.GET("/api/sites/{site_id}/targets/plan", { params: { path, query } }));
  });
watch([name, anyway], look);
void run("Reading the targets…", async () =>
  take(await data(api.GET("/api/sites/{site_id}/targets", { params: { path } }))),
);

const add = () =>
  run("Keeping the target…", async () => {
    const { secret, ...rest } = draft.value;
    const body = { ...rest, secret: remote.value && secret ? secret : null };
    take(await data(api.PUT("/api/sites/{site_id}/targets", { params: { path }, body })), draft.value.name.trim());
    adding.value = false;
    await look();
  });

const forget = () =>
  run("Forgetting the target…", async () =>
    take(await data(api.DELETE("/api/sites/{site_id}/targets", { params: { path, query: { name: name.value } } }))),
  );

const publish = () =>
  run("Sending…", async () => {
    if (!plan.value) return;
    const body = { name: name.value, tag: plan.value.tag, anyway: anyway.value };
    const found = await data(api.POST("/api/sites/{site_id}/targets/publish", { params: { path }, body }));
    done.value = `${counted(found.sent, "file")} sent, ${found.deleted} deleted. All were read back${
      found.wrong.length ? `; these are not as they were sent: ${found.wrong.join(", ")}` : " as they were sent"
    }.`;
    anyway.value = false;
    take(await data(api.GET("/api/sites/{site_id}/targets", { params: { path } })), name.value);
    await look();
  });

const undo = () =>
  run("Going back…", async () => {
    const params = { path, query: { name: name.value } };
    const found = await data(api.POST("/api/sites/{site_id}/targets/undo", { params }));
    done.value = `The state before is there again: ${counted(found.sent, "file")} sent, ${found.deleted} deleted.`;
    take(await data(api.GET("/api/sites/{site_id}/targets", { params: { path } })), name.value);
    await look();
  });

const walk = () =>
  run("Asking for every file as a reader would…", async () => {
    const params = { path, query: { name: name.value } };
    live.value = await data(api.GET("/api/sites/{site_id}/targets/live", { params }));
  });
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
      <el-button v-if="targets.length" text size="small" @click="adding = !adding">New target…</el-button>
    </div>

    <el-form v-if="adding" label-position="top" class="draft" @submit.prevent="add">
      <el-segmented v-model="draft.kind" :options="KINDS" aria-label="How files get there" />
      <p v-if="draft.kind === 'practice'" class="soft small">
        A small web server that comes with Humble Signpost. It answers on this computer alone, as hosts do.
      </p>
      <div class="fields">
        <el-form-item label="Name"
          ><el-input v-model="draft.name" maxlength="100" placeholder="Our host"
        /></el-form-item>
        <el-form-item v-if="kind.address" :label="kind.address"
          ><el-input v-model="draft.address" maxlength="2000" :placeholder="kind.example" spellcheck="false"
        /></el-form-item>
        <template v-if="remote">
          <el-form-item label="User"
            ><el-input v-model="draft.user_name" maxlength="200" autocomplete="off"
          /></el-form-item>
          <el-form-item label="Password"
            ><el-input v-model="draft.secret" type="password" maxlength="1000" autocomplete="new-password"
          /></el-form-item>
        </template>
        <el-form-item v-if="draft.kind !== 'practice'" label="Address that readers use, if it has one"
          ><el-input v-model="draft.live" maxlength="2000" placeholder="https://our-line.example/" spellcheck="false"
        /></el-form-item>
      </div>
      <el-button native-type="submit" :disabled="!draft.name.trim() || Boolean(busy)">Keep this target</el-button>
    </el-form>

    <p v-if="busy" class="soft" role="status">{{ busy }}</p>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" role="alert" show-icon />
    <el-alert v-if="done && !busy" :title="done" type="success" :closable="false" role="status" />

    <template v-if="plan && target && !busy">
      <p v-if="!sent.length">
        {{ foreign ? "Nothing else is to be sent." : "Nothing to send: it has all that is here." }}
      </p>
      <p v-else>
        <strong>{{ counted(sent.length, "file") }}</strong>, {{ sizeOf(bytes) }}. Pages are sent last, after what they
        need.
      </p>
      <el-checkbox v-if="foreign || anyway" v-model="anyway"
        >Replace what is there but was not published from here, or was changed there</el-checkbox
      >
      <el-table v-if="plan.steps.length" :data="plan.steps" size="small" max-height="230">
        <el-table-column label="File" prop="path" min-width="260" />
        <el-table-column label="There" width="170">
          <template #default="{ row }: { row: Step }"
            ><span :class="{ wait: row.does === 'foreign' || row.does === 'delete' }">{{
              wordsOf(row)
            }}</span></template
          >
        </el-table-column>
        <el-table-column label="Size" width="110" align="right">
          <template #default="{ row }: { row: Step }">{{ row.size ? sizeOf(row.size) : "" }}</template>
        </el-table-column>
      </el-table>
      <p v-if="target.publications" class="soft small">
        Redirects from where pages were at the last publication:
        <a :href="redirects('csv')">table</a>, <a :href="redirects('pairs')">pairs</a>,
        <a :href="redirects('apache')">Apache</a>, <a :href="redirects('nginx')">nginx</a>
      </p>
    </template>

    <section v-if="live && !busy" aria-labelledby="live-title">
      <h3 id="live-title">As readers get it</h3>
      <p>
        {{ counted(live.files, "file") }} asked for at
        <a :href="live.address" target="_blank" rel="noopener">{{ live.address }}</a>{{
          live.findings.length ? "" : "; all came as they should"
        }}.
        <template v-if="live.newer_here.length"
          >{{ counted(live.newer_here.length, "file") }} {{ live.newer_here.length === 1 ? "is" : "are" }} other than
          here: {{ live.newer_here.slice(0, 4).join(", ") }}{{ live.newer_here.length > 4 ? ", …" : "" }}.</template
        >
      </p>
      <ul v-if="live.findings.length" class="findings">
        <li v-for="(one, at) in live.findings" :key="at">
          <RouterLink :to="placeOf(one)" @click="close"
            >{{ one.path }}{{ one.line ? `, line ${one.line}` : "" }}</RouterLink
          >: {{ one.message }}
        </li>
      </ul>
    </section>

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

.draft {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 10px;
  padding: 10px 0 14px;
}

.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 14px;
  width: 100%;
}

.fields :deep(.el-form-item) {
  margin: 0;
}

.el-alert {
  margin-top: 10px;
}

p {
  margin: 8px 0;
}

h3 {
  font: 650 15px/1.3 var(--read);
  margin-top: 12px;
}

a {
  color: var(--post);
}

.findings {
  max-height: 180px;
  overflow: auto;
  padding-left: 18px;
}
</style>
