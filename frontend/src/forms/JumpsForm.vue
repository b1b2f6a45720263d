<script setup lang="ts">
/** Jump links: made, given another target, offered where words resemble a title; who points where. */
import { computed, onBeforeUnmount } from "vue";
import type { PageView } from "../api/client";
import PickOne from "../components/PickOne.vue";
import { ownLinks } from "../ledger/rows";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { counted } from "../text/count";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ link: [] }>();
const state = usePage();
const dialogs = useDialogs();
const measures = useMeasures();

const SHOWN = [
  { value: "all" as const, words: "all links" },
  { value: "offers" as const, words: "suggestions" },
  { value: "broken" as const, words: "broken links" },
];
const own = computed(() => ownLinks(props.page));
const broken = computed(() => own.value.filter((link) => link.resolves === false).length);

onBeforeUnmount(measures.widen());
</script>

<template>
  <div class="stage-line">
    <p>
      <strong>{{ counted(own.length, "link") }}</strong><template v-if="broken"
        >, <span class="wrong">{{ broken }} broken</span></template
      ><template v-if="page.navigation.offers.length"
        >, {{ counted(page.navigation.offers.length, "suggestion") }}</template
      >.
    </p>
    <PickOne v-model="state.linksShown" :choices="SHOWN" label="Links shown" :width="116" />
    <el-button
      size="small"
      :disabled="!state.section"
      @click="dialogs.show({ name: 'pointers', section: state.selected })"
      >Links to this section</el-button
    >
    <el-button
      size="small"
      :disabled="unable || !state.section"
      @click="dialogs.show({ name: 'pair', section: state.selected })"
      >See also…</el-button
    >
    <el-button
      size="small"
      type="primary"
      :disabled="unable"
      :aria-pressed="dialogs.linking"
      title="Choose words in the source or on the page (l)"
      @click="emit('link')"
      >{{ dialogs.linking ? "Choose the words…" : "Link words…" }}</el-button
    >
  </div>
</template>
