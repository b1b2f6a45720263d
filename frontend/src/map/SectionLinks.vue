<script setup lang="ts">
/** The sections of a page as a table, and the links of the one that is chosen; each opens in the source. */
import { computed } from "vue";
import type { LinkRowView, SectionMap } from "../api/client";
import { counted } from "../text/count";

const props = defineProps<{ map: SectionMap }>();
const emit = defineEmits<{ open: [link: LinkRowView]; leave: [] }>();
const chosen = defineModel<string>({ required: true }); // "#" and its index, or the path of another page

const nameOf = (end: string) =>
  end.startsWith("#") ? (props.map.sections.find((one) => `#${one.index}` === end)?.text ?? "") : end;
const lists = computed(() => [
  {
    title: "Links from it",
    links: props.map.links.filter((one) => one.source === chosen.value),
    end: "goal" as const,
  },
  { title: "Links to it", links: props.map.links.filter((one) => one.goal === chosen.value), end: "source" as const },
]);
const pick = (index: number) => (chosen.value = chosen.value === `#${index}` ? "" : `#${index}`);
</script>

<template>
  <div class="tools">
    <h2 class="clipped" :title="map.path">Sections of {{ map.path }}</h2>
    <el-button size="small" @click="emit('leave')">Whole site</el-button>
  </div>
  <p class="soft small note">
    {{ counted(map.links.length, "link") }}; those in menus, to the top, and within a section are left out.
  </p>
  <el-table :data="[...map.sections]" row-key="index" size="small" :height="chosen ? '42%' : '100%'">
    <el-table-column label="Section" prop="text" min-width="180">
      <template #default="{ row }: { row: SectionMap['sections'][number] }">
        <el-button
          text
          size="small"
          class="pick"
          :class="{ chosen: `#${row.index}` === chosen }"
          :style="{ marginLeft: `${Math.max(row.level - 1, 0) * 10}px` }"
          :aria-pressed="`#${row.index}` === chosen"
          @click="pick(row.index)"
          >{{ row.text || "(no words)" }}</el-button
        >
      </template>
    </el-table-column>
    <el-table-column label="In" prop="links_in" sortable width="66" align="right" />
    <el-table-column label="Out" prop="links_out" sortable width="70" align="right" />
    <template #empty>No link leads to a section of this page or away from one.</template>
  </el-table>
  <div v-if="chosen" class="around">
    <h2>{{ nameOf(chosen) }}</h2>
    <template v-for="list in lists" :key="list.title">
      <h3>{{ list.title }}</h3>
      <p v-if="!list.links.length" class="soft small">None.</p>
      <ul>
        <li v-for="(one, at) in list.links" :key="at">
          <el-button text size="small" class="pick" @click="emit('open', one.row)"
            >{{ one.row.words || "(no words)"
            }}<span class="soft"> {{ one.row.page }}, line {{ one.row.line }}</span></el-button
          >
          <span class="soft small">{{ list.end === "goal" ? "to" : "from" }} {{ nameOf(one[list.end]) }}</span>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped src="./listed.css"></style>
