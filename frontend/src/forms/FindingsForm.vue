<script setup lang="ts">
/** The page's findings in a sentence, and what is done with all of them. */
import { computed, ref } from "vue";
import ChecksDrawer from "../findings/ChecksDrawer.vue";
import FindingTools from "../findings/FindingTools.vue";
import { useFindings } from "../findings/useFindings";
import { usePage } from "../stores/page";
import { useStages } from "../stores/stages";
import { counted } from "../text/count";

defineProps<{ unable: boolean }>();
const page = usePage();
const stages = useStages();
const opened = ref(false);
const { fix, readAgain, writeFile } = useFindings(
  () => page.siteId,
  () => "",
);

const fixable = computed(() => stages.findings.filter((one) => one.fixable && one.fix === "auto").length);
const kinds = computed(() => new Set(stages.findings.map((one) => one.rule)).size);

function write(): void {
  opened.value = false;
  writeFile();
}
</script>

<template>
  <div class="stage-line">
    <p v-if="stages.findings.length">
      <strong>{{ counted(stages.findings.length, "finding") }}</strong> of {{ counted(kinds, "kind") }}.
    </p>
    <p v-else>No findings.</p>
    <FindingTools
      :site-id="page.siteId"
      :path="page.path"
      :fixable="fixable"
      :locked="unable"
      @fix="fix(null, null, null)"
      @rules="opened = true"
    />
    <ChecksDrawer v-model="opened" :site-id="page.siteId" :locked="unable" @saved="readAgain" @write="write" />
  </div>
</template>
