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
import ToolMenu, { type Tool } from "./ToolMenu.vue";

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

const tools = computed<Tool[]>(() => [
  {
    words: "Links to this section",
    does: () => dialogs.show({ name: "pointers", section: state.selected }),
    off: !state.section,
    always: true,
  },
  {
    words: "See also…",
    does: () => dialogs.show({ name: "pair", section: state.selected }),
    off: !state.section,
  },
  {
    words: "Add to a menu…",
    does: () => dialogs.show({ name: "menu-section", section: state.selected }),
    off: !state.section,
  },
]);

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
    <ToolMenu :tools="tools" :unable="unable" />
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
