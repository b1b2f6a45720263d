<script setup lang="ts">
/** The links of all pages that lead to a section. */
import { computed, onMounted, ref } from "vue";
import { RouterLink } from "vue-router";
import { detailOf, type PointerView } from "../api/client";
import StateNote from "../components/StateNote.vue";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";

const props = defineProps<{ section: number }>();
const page = usePage();
const choices = useChoices();
const dialogs = useDialogs();
const found = ref<PointerView[] | null>(null);
const problem = ref("");
const words = computed(() => page.view?.sections[props.section]?.text ?? "the top");

onMounted(async () => {
  try {
    found.value = await choices.pointers(props.section);
  } catch (error) {
    problem.value = detailOf(error);
  }
});
</script>

<template>
  <el-dialog
    :model-value="true"
    :title="`Links to “${words}”`"
    width="560"
    align-center
    append-to-body
    @close="dialogs.close()"
  >
    <p v-if="problem" role="alert">{{ problem }}</p>
    <StateNote v-else-if="!found" kind="loading" title="Looking through the site…" />
    <StateNote
      v-else-if="!found.length"
      kind="empty"
      title="No links"
      text="No page of the site links to this section."
    />
    <div v-else class="scroller list" tabindex="0">
      <p v-for="(one, row) in found" :key="row" class="pointer">
        <span class="clipped">“{{ one.text || "picture" }}”</span>
        <RouterLink
          class="small"
          :to="{ name: 'page', params: { siteId: page.siteId, path: one.path } }"
          @click="dialogs.close()"
          >{{ one.path }}</RouterLink
        >
        <span class="small soft">line {{ one.line }}{{ one.in_furniture ? ", navigation" : "" }}</span>
      </p>
    </div>
  </el-dialog>
</template>

<style scoped>
.list {
  max-height: 50vh;
}

.pointer {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 130px;
  gap: 12px;
  padding: 4px 8px;
  border-bottom: 1px solid var(--line);
}
</style>
