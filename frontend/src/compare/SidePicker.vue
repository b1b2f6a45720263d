<script setup lang="ts">
/** Which page, and which of its revisions, is on one side. */
import { computed, ref, watch } from "vue";
import PagePicker from "../components/PagePicker.vue";
import PickOne from "../components/PickOne.vue";
import { api, data, detailOf, type CommitView, type RevisionView } from "../api/client";

const props = defineProps<{ siteId: string; side: string }>();
const emit = defineEmits<{ problem: [words: string] }>();
const path = defineModel<string>("path", { required: true });
const revision = defineModel<string>("revision", { required: true }); // "" for the page as it is
const revisions = ref<RevisionView[]>([]);
const commits = ref<CommitView[]>([]); // of the folder that the site is, where that is a work tree of git
const brought = ref(new Map<string, string>()); // what a chosen commit is called, by the revision that it is here
const COMMIT = "commit ";

async function loadCommits(): Promise<void> {
  try {
    const params = { path: { site_id: props.siteId }, query: { path: path.value } };
    commits.value = await data(api.GET("/api/sites/{site_id}/folder/commits", { params }));
  } catch {
    commits.value = []; // the site is no folder, or that is no work tree
  }
}

/** Choose a revision, or a commit, which is brought in to be compared. */
async function choose(value: string): Promise<void> {
  if (!value.startsWith(COMMIT)) {
    revision.value = value;
    return;
  }
  const commit = value.slice(COMMIT.length);
  const params = { path: { site_id: props.siteId }, query: { path: path.value, commit } };
  try {
    const { sha256 } = await data(api.POST("/api/sites/{site_id}/folder/committed", { params }));
    brought.value.set(sha256, commits.value.find((one) => one.name === commit)?.subject ?? commit);
    revision.value = sha256;
  } catch (error) {
    emit("problem", detailOf(error));
  }
}

watch(
  () => [props.siteId, path.value],
  async () => {
    try {
      revisions.value = await data(
        api.GET("/api/sites/{site_id}/revisions", {
          params: { path: { site_id: props.siteId }, query: { path: path.value } },
        }),
      );
    } catch {
      revisions.value = []; // the comparison itself says what is wrong
    }
  },
  { immediate: true },
);
watch(() => [props.siteId, path.value], loadCommits, { immediate: true });

const when = (text: string | null) =>
  text ? new Date(text).toLocaleString([], { dateStyle: "short", timeStyle: "short" }) : "";
const words = (found: RevisionView) =>
  `${found.undone ? "undone: " : ""}${found.title}${found.created_at ? `, ${when(found.created_at)}` : ""}${found.current ? " (now)" : ""}`;

const revisionChoices = computed(() => {
  const known = [
    { value: "", words: "as it is now" },
    ...revisions.value.map((found) => ({ value: found.revision, words: words(found) })),
  ];
  const isKnown = known.some((one) => one.value === revision.value);
  const subject = brought.value.get(revision.value);
  return [
    ...known,
    ...(isKnown ? [] : [{ value: revision.value, words: subject ? `commit: ${subject}` : "as it was committed" }]),
    ...commits.value.map((one) => ({ value: COMMIT + one.name, words: `commit: ${one.subject}, ${when(one.date)}` })),
  ];
});

function choosePage(to: string): void {
  revision.value = "";
  path.value = to;
}
</script>

<template>
  <span class="picker" role="group" :aria-label="side">
    <PagePicker :model-value="path" :site-id="siteId" :label="`${side}: page`" @update:model-value="choosePage" />
    <PickOne
      :model-value="revision"
      :choices="revisionChoices"
      :label="`${side}: revision`"
      size="default"
      :width="230"
      @update:model-value="choose"
    />
  </span>
</template>

<style scoped>
.picker {
  display: inline-flex;
  gap: 6px;
  min-width: 0;
}
</style>
