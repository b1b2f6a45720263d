<script setup lang="ts">
/** Two sections that point to one another at their ends. */
import { computed, ref, shallowRef } from "vue";
import { detailOf, type GoalView } from "../api/client";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";
import GoalList from "./GoalList.vue";

const props = defineProps<{ section: number }>();
const page = usePage();
const tray = useTray();
const dialogs = useDialogs();
const goals = ref<InstanceType<typeof GoalList> | null>(null);
const chosen = shallowRef<GoalView | null>(null);
const both = ref(true);
const problem = ref("");
const words = computed(() => page.view?.sections[props.section]?.text ?? page.path);

async function go(picked?: GoalView): Promise<void> {
  try {
    const goal = picked ?? (await goals.value?.settle());
    if (!goal) return;
    const done = await tray.propose({
      operation: "pair",
      page: page.path,
      section: props.section,
      to_page: goal.path,
      to_section: goal.section ?? null,
      both: both.value,
    });
    if (done) dialogs.close();
    else problem.value = tray.problem;
  } catch (error) {
    problem.value = detailOf(error);
  }
}
</script>

<template>
  <AskDialog
    title="See also"
    does="Show the edits"
    :able="chosen !== null"
    :width="620"
    :problem="problem"
    @go="go()"
  >
    <p>
      At the end of “<strong>{{ words }}</strong
      >”, a line that leads to
    </p>
    <GoalList ref="goals" v-model="chosen" :now="null" @go="go" @problem="problem = $event" />
    <el-checkbox v-model="both">And a line there that leads back</el-checkbox>
  </AskDialog>
</template>
