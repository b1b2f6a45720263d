<script setup lang="ts">
/** Words that may want to be a jump link, or that say nothing alone. */
import { computed } from "vue";
import type { OfferView } from "../api/client";
import { useJumps } from "../composables/useJumps";

const props = defineProps<{ offer: OfferView; locked: boolean }>();
const jumps = useJumps();

const says = computed(
  () =>
    ({ placeholder: "has no target yet", mention: "names a section", untelling: "does not say where it leads" })[
      props.offer.kind
    ] ?? "",
);
const does = computed(() => (props.offer.kind === "untelling" ? "Use the title" : "Link it"));
const take = () => jumps.take(props.offer);
</script>

<template>
  <tr
    class="extra"
    style="--extra-wash: var(--wait-wash)"
    tabindex="-1"
    :aria-label="`${offer.words} ${says}: ${offer.title}. Enter: ${does}.`"
    @keydown.enter.exact.self.prevent.stop="locked || take()"
  >
    <td class="level soft">+</td>
    <td colspan="4">
      <div class="row">
        <p class="what small clipped" :title="`${offer.words}, line ${offer.line} → ${offer.title}`">
          “{{ offer.words }}” {{ says }}
          <span class="soft">{{ offer.sure ? "→" : "→ perhaps" }} {{ offer.title }}, line {{ offer.line }}</span>
        </p>
        <el-button size="small" tabindex="-1" :disabled="locked" @click="take">{{ does }}</el-button>
      </div>
    </td>
  </tr>
</template>

<style scoped src="./extra.css"></style>
