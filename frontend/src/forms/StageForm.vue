<script setup lang="ts">
/** What can be asked for at each stage of work. */
import { computed } from "vue";
import type { Operation, PageView } from "../api/client";
import WalkForm from "./WalkForm.vue";
import type { Stage } from "../stores/page";
import ContentsForm from "./ContentsForm.vue";
import FindingsForm from "./FindingsForm.vue";
import HeadingsForm from "./HeadingsForm.vue";
import IdentifiersForm from "./IdentifiersForm.vue";
import JumpsForm from "./JumpsForm.vue";
import PartsForm from "./PartsForm.vue";
import BackToTopForm from "./BackToTopForm.vue";

const props = defineProps<{
  page: PageView;
  stage: Stage;
  locked: string;
  busy: boolean;
}>();
const emit = defineEmits<{ propose: [operation: Operation]; point: []; link: [] }>();

const LEVELS = [2, 3, 4, 5, 6];
const unable = computed(() => props.busy || props.locked !== "");
function ask(operation: Operation): void {
  emit("propose", operation);
}
</script>

<template>
  <div class="stage-form">
    <p v-if="locked" class="locked small" role="note">{{ locked }}</p>

    <HeadingsForm v-if="stage === 'headings'" :page="props.page" :unable="unable" @propose="ask" />
    <IdentifiersForm
      v-else-if="stage === 'identifiers'"
      :page="props.page"
      :unable="unable"
      :levels="LEVELS"
      @propose="ask"
      @point="emit('point')"
    />

    <ContentsForm v-else-if="stage === 'contents'" :page="props.page" :unable="unable" @propose="ask" />
    <JumpsForm v-else-if="stage === 'jumps'" :page="props.page" :unable="unable" @link="emit('link')" />
    <BackToTopForm v-else-if="stage === 'back-to-top'" :page="props.page" :unable="unable" @propose="ask" />

    <WalkForm v-else-if="stage === 'walk'" />
    <PartsForm v-else-if="stage === 'parts'" :unable="unable" />

    <FindingsForm v-else :unable="unable" />
  </div>
</template>

<style>
.stage-form {
  padding: 7px 12px;
  border-bottom: 1px solid var(--line);
  flex: none;
}

/* what the stage says, then its controls, the main one at the right */
.stage-line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 8px;
}

.stage-line > p {
  flex: 1 1 110px;
  min-width: 0;
}

.stage-line > .el-button:last-child {
  margin-left: auto;
}

.stage-form .locked {
  color: var(--wrong);
  padding-bottom: 4px;
}

.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}

.drawer-foot {
  display: flex;
  justify-content: flex-end;
  padding-top: 16px;
}
</style>
