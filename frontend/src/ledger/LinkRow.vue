<script setup lang="ts">
/** A link of a section, and where it leads. */
import { computed } from "vue";
import type { LinkView } from "../api/client";
import { useJumps } from "../composables/useJumps";
import { useMeasures } from "../stores/measures";
import { usePage } from "../stores/page";
import { carryLink } from "./carry";
import VerdictMark from "../walk/VerdictMark.vue";

const props = defineProps<{ link: LinkView; locked: boolean }>();
const page = usePage();
const jumps = useJumps();
const measures = useMeasures();

const landing = computed(() => measures.view?.landings.find((found) => found.start === props.link.start) ?? null);

const goal = computed(() => {
  const { link } = props;
  if (link.resolves === false) return link.href ? `${link.href}: no such target` : "no target yet";
  if (link.to_page && link.to_page !== page.path) return link.href ?? "";
  if (link.to_section === null || link.to_section === undefined) return link.href ?? "";
  if (link.to_section < 0) return link.to_top ? "the top" : (link.href ?? "");
  return page.view?.sections[link.to_section]?.text ?? "";
});
const change = () => void jumps.retarget(props.link);
</script>

<template>
  <tr
    class="extra"
    tabindex="-1"
    :draggable="!locked"
    :aria-label="`Link ${link.text}, to ${goal}. Enter changes its target.`"
    @dragstart="carryLink($event, link.start)"
    @keydown.enter.exact.self.prevent.stop="locked || change()"
  >
    <td class="level soft">↳</td>
    <td colspan="4">
      <div class="row">
        <p class="what small clipped" :title="`${link.text} → ${link.href ?? 'nowhere'}, line ${link.line}`">
          “{{ link.text || "picture" }}”
          <span class="to" :class="{ wrong: link.resolves === false }">→ {{ goal }}</span>
        </p>
        <VerdictMark
          v-if="landing && landing.verdict !== 'nowhere' && landing.verdict !== 'unmeasured'"
          :landing="landing"
        />
        <el-button text size="small" tabindex="-1" :disabled="locked" @click="change"> Change target… </el-button>
      </div>
    </td>
  </tr>
</template>

<style scoped src="./extra.css"></style>

<style scoped>
.to {
  color: var(--ink-soft);
}

.to.wrong {
  color: var(--wrong);
}
</style>
