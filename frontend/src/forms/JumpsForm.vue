<script setup lang="ts">
/** Jump links: made, given another target, offered where words resemble a title; who points where. */
import { computed, onBeforeUnmount } from "vue";
import type { PageView } from "../api/client";
import { ownLinks } from "../ledger/rows";
import { useDialogs } from "../stores/dialogs";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";

const props = defineProps<{ page: PageView; unable: boolean }>();
const emit = defineEmits<{ link: [] }>();
const state = usePage();
const dialogs = useDialogs();
const measures = useMeasures();

const own = computed(() => ownLinks(props.page));
const broken = computed(() => own.value.filter((link) => link.resolves === false).length);
const alone = computed(() => props.page.sections.filter((section) => section.level > 1 && !section.links_in).length);

onBeforeUnmount(measures.widen());
</script>

<template>
  <div class="jumps-form">
    <p>
      <strong>{{ own.length }}</strong> {{ own.length === 1 ? "link" : "links" }} in the text<template v-if="broken"
        >, <span class="wrong">{{ broken }} {{ broken === 1 ? "leads" : "lead" }} nowhere</span></template
      >; {{ page.navigation.offers.length }} {{ page.navigation.offers.length === 1 ? "place" : "places" }} where
      words may want one.
      <span class="soft">{{ alone }} {{ alone === 1 ? "section has" : "sections have" }} no link to them.</span>
    </p>
    <div class="tools">
      <button
        type="button"
        class="button main"
        :disabled="unable"
        :aria-pressed="dialogs.linking"
        title="Choose words in the source or on the page first (l)"
        @click="emit('link')"
      >
        {{ dialogs.linking ? "Choose the words…" : "Link words…" }}
      </button>
      <button
        type="button"
        class="button"
        :disabled="!state.section"
        @click="dialogs.show({ name: 'pointers', section: state.selected })"
      >
        Who points here
      </button>
      <label
        >Show
        <select v-model="state.linksShown" class="field" aria-label="Links shown">
          <option value="all">all links</option>
          <option value="offers">what may want a link</option>
          <option value="broken">what leads nowhere</option>
        </select></label
      >
    </div>
  </div>
</template>

<style scoped>
.jumps-form {
  display: flex;
  flex-direction: column;
  gap: 6px;
}

.wrong {
  color: var(--wrong);
}
</style>
