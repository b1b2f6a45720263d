<script setup lang="ts">
/** The site's pages that are in parts, each with its parts to scale. */
import { useRouter } from "vue-router";
import type { SeriesView } from "../api/client";
import { usePage } from "../stores/page";
import { counted } from "../text/count";
import LinkButton from "./LinkButton.vue";

const props = defineProps<{ siteId: string; series: readonly SeriesView[] }>();
const page = usePage();
const router = useRouter();

function open(path: string): void {
  page.stage = "parts";
  void router.push({ name: "page", params: { siteId: props.siteId, path } });
}
const share = (words: number, of: number) => `${Math.max((words / Math.max(of, 1)) * 100, 4)}%`;
</script>

<template>
  <section class="series" aria-label="Pages in parts">
    <div v-for="one in series" :key="one.home" class="one">
      <p class="head">
        <strong class="title">{{ one.title }}</strong>
        <span class="soft small"
          >{{ counted(one.parts.length, "part") }}, {{ one.words.toLocaleString("en") }} words</span
        >
        <span v-if="one.missing.length" class="wrong small">Missing: part {{ one.missing.join(", ") }}</span>
        <el-button size="small" @click="open(one.home)">Work on the parts</el-button>
      </p>
      <ol class="parts">
        <li v-for="part in one.parts" :key="part.path" :style="{ flexBasis: share(part.words, one.words) }">
          <LinkButton
            text
            size="small"
            :to="{ name: 'page', params: { siteId, path: part.path } }"
            :title="`${part.path}, ${part.words.toLocaleString('en')} words`"
            >{{ part.number }} {{ part.title }}</LinkButton
          >
        </li>
      </ol>
    </div>
  </section>
</template>

<style scoped>
.series {
  padding: 10px 12px 12px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet-sunk);
}

.one + .one {
  margin-top: 10px;
}

.head {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0 0 6px;
}

.head .el-button {
  margin-left: auto;
}

.title {
  font: 600 14px/1.4 var(--read);
}

.parts {
  display: flex;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.parts li {
  flex: 1 1 0;
  min-width: 0;
  overflow: hidden;
  border-top: 5px solid var(--road-2);
  background: var(--sheet);
}

.parts li:nth-child(even) {
  border-top-color: var(--road-3);
}

.parts :deep(a) {
  display: block;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
