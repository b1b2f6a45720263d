<script setup lang="ts">
/** What is wrong at the place of the page that was clicked, with its fixes. */
import type { FindingView } from "../api/client";
import FindingRow from "../findings/FindingRow.vue";
import { useFindings } from "../findings/useFindings";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";

defineProps<{ findings: readonly FindingView[] }>();
const emit = defineEmits<{ close: []; go: [finding: FindingView] }>();
const page = usePage();
const tray = useTray();
const { fix, setAside } = useFindings(
  () => page.siteId,
  () => "",
);
</script>

<template>
  <section class="findings-here" aria-label="Findings at this place" @keydown.esc.stop="emit('close')">
    <header>
      <strong>{{ counted(findings.length, "finding") }} here</strong>
      <el-button size="small" text @click="emit('close')">Close</el-button>
    </header>
    <ol>
      <FindingRow
        v-for="finding in findings"
        :key="`${finding.rule} ${finding.start}`"
        :finding="finding"
        :locked="tray.busy || Boolean(page.view?.locked)"
        alone
        @go="emit('go', finding)"
        @fix="fix(finding.rule, finding, $event)"
        @aside="(scope, reason) => setAside(finding, scope, reason)"
      />
    </ol>
  </section>
</template>

<style scoped>
.findings-here {
  flex: none;
  max-height: 45%;
  overflow: auto;
  border-top: 1px solid var(--line-strong);
  background: var(--sheet);
}

header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 2px 4px 2px 12px;
  border-bottom: 1px solid var(--line);
}

ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
