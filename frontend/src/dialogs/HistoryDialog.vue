<script setup lang="ts">
/** How much is kept of what the site was, and letting older changes go. */
import { computed, ref, shallowRef, watch } from "vue";
import { api, data, detailOf, type Kept, type Shortening } from "../api/client";
import { useChanges } from "../stores/changes";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useSite } from "../stores/site";
import { counted, sizeOf } from "../text/count";

const page = usePage();
const dialogs = useDialogs();
const changes = useChanges();
const site = useSite();
const kept = shallowRef<Kept | null>(null);
const plan = shallowRef<Shortening | null>(null);
const by = ref<"last" | "days">("last");
const last = ref(100);
const days = ref(90);
const firstStates = ref(true);
const busy = ref(false);
const problem = ref("");
const done = ref("");
const path = { site_id: page.siteId };
let asked = 0;

const share = computed(() => (kept.value ? Math.round((100 * kept.value.stored_bytes) / kept.value.most_bytes) : 0));

async function look(): Promise<void> {
  const mine = ++asked;
  try {
    const query = {
      last: by.value === "last" ? last.value : null,
      days: by.value === "days" ? days.value : null,
      first_states: firstStates.value,
    };
    const [now, found] = await Promise.all([
      data(api.GET("/api/sites/{site_id}/history", { params: { path } })),
      data(api.GET("/api/sites/{site_id}/history/shortened", { params: { path, query } })),
    ]);
    if (mine !== asked) return;
    kept.value = now;
    plan.value = found;
    problem.value = "";
  } catch (error) {
    if (mine === asked) problem.value = detailOf(error);
  }
}
watch([by, last, days, firstStates], look, { immediate: true });

async function shorten(): Promise<void> {
  if (!plan.value) return;
  busy.value = true;
  try {
    const body = { first: plan.value.first, changes: plan.value.changes, first_states: firstStates.value };
    const freed = plan.value.freed_bytes;
    await data(api.POST("/api/sites/{site_id}/history/shortened", { params: { path }, body }));
    done.value = `${counted(body.changes, "change")} let go, ${sizeOf(freed)} freed.`;
    await Promise.all([look(), changes.load(page.siteId), site.load(page.siteId)]);
  } catch (error) {
    problem.value = detailOf(error);
    await look();
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="Shorten the history"
    width="520"
    align-center
    append-to-body
    @close="dialogs.close()"
  >
    <p v-if="kept">
      {{ counted(kept.changes, "change") }} are kept, with {{ sizeOf(kept.stored_bytes) }} of files and their earlier
      states: {{ share }} % of the {{ sizeOf(kept.most_bytes) }} that a site may keep.
    </p>
    <el-form label-position="top" @submit.prevent>
      <el-form-item label="What stays">
        <el-radio-group v-model="by">
          <el-radio value="last">The last changes</el-radio>
          <el-radio value="days">Those of the last days</el-radio>
        </el-radio-group>
        <el-input-number
          v-if="by === 'last'"
          v-model="last"
          :min="0"
          :max="1000000"
          aria-label="How many changes stay"
        />
        <el-input-number v-else v-model="days" :min="0" :max="36500" aria-label="Of how many days changes stay" />
      </el-form-item>
      <el-checkbox v-model="firstStates">Each file as it was brought in stays, too</el-checkbox>
    </el-form>
    <p v-if="plan" role="status">
      <template v-if="plan.changes"
        ><strong>{{ counted(plan.changes, "change") }}</strong> would go, which frees {{ sizeOf(plan.freed_bytes) }}.
        They cannot be undone any more. Where files moved to stays known.</template
      >
      <template v-else>Nothing would go: no change is older.</template>
    </p>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" role="alert" show-icon />
    <el-alert v-else-if="done" :title="done" type="success" :closable="false" role="status" />
    <template #footer>
      <el-button @click="dialogs.close()">Close</el-button>
      <el-button type="primary" :disabled="!plan?.changes || busy" @click="shorten">Let them go</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
p {
  margin: 0 0 12px;
}

.el-radio-group {
  width: 100%;
}
</style>
