<script setup lang="ts">
/** Exporting files: the whole site, what changed, one diff, or a table of all links. */
import { computed } from "vue";
import SignIcon from "./SignIcon.vue";

const props = defineProps<{ siteId: string; changed: number }>();
const FORMS = [
  ["outline.opml", "outline (OPML)"],
  ["outline.json", "outline (JSON)"],
  ["contents.md", "contents (Markdown)"],
  ["contents.html", "contents (HTML)"],
  ["nav.xhtml", "EPUB navigation"],
  ["sitemap.xml", "site map"],
  ["lengths.csv", "lengths (CSV)"],
] as const;
const href = (kind: string) => `/api/sites/${encodeURIComponent(props.siteId)}/takeout/${kind}`;
const files = computed(() => `${props.changed} ${props.changed === 1 ? "file" : "files"}`);
</script>

<template>
  <el-popover trigger="click" :width="290" placement="bottom-end" popper-class="take-out">
    <template #reference>
      <el-button text><SignIcon name="take" /> Export</el-button>
    </template>
    <ul>
      <li>
        <a class="choice" :href="href('site.zip')" download="site.zip"
          ><strong>The whole site</strong><span>a ZIP of all files</span></a
        >
      </li>
      <template v-if="changed">
        <li>
          <a class="choice" :href="href('changed.zip')" download="changed.zip"
            ><strong>Changed files</strong><span>a ZIP of {{ files }}</span></a
          >
        </li>
        <li>
          <a class="choice" :href="href('changes.diff')" download="changes.diff"
            ><strong>A diff</strong><span><code>patch -p1</code> applies it to your folder</span></a
          >
        </li>
      </template>
      <li>
        <a class="choice" :href="href('links.csv')" download="links.csv"
          ><strong>All links</strong><span>a table, to fill in new addresses</span></a
        >
      </li>
      <li>
        <a class="choice" :href="href('map.graphml')" download="map.graphml"
          ><strong>The link map</strong><span>GraphML, for programs that draw graphs</span></a
        >
      </li>
      <li>
        <a class="choice" :href="href('desk.zip')" download="desk.zip"
          ><strong>The whole desk</strong><span>files, changes and settings, for another computer</span></a
        >
      </li>
      <li class="forms">
        <strong>In open forms</strong>
        <span
          ><a v-for="one in FORMS" :key="one[0]" :href="href(one[0])" :download="one[0]">{{ one[1] }}</a></span
        >
      </li>
    </ul>
    <p v-if="!changed" class="soft small none">No file differs from what was brought in.</p>
  </el-popover>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.forms {
  padding: 7px 8px;
}

.forms span {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}

.forms a {
  color: var(--post);
}

.choice {
  display: flex;
  flex-direction: column;
  padding: 7px 8px;
  border-radius: 4px;
  text-decoration: none;
  color: var(--ink);
}

.choice:hover,
.choice:focus-visible {
  background: var(--post-wash);
}

.choice span {
  color: var(--ink-soft);
  font-size: var(--small);
}

.none {
  padding: 4px 8px;
}
</style>
