<script setup lang="ts">
/** A line that looks like a heading, offered as one. */
import { computed } from "vue";
import type { LookalikeView } from "../api/client";
import { useHeadings } from "../composables/useHeadings";

const props = defineProps<{ found: LookalikeView; locked: boolean }>();
const headings = useHeadings();
const level = computed({
  get: () => headings.levelOf(props.found),
  set: (chosen: number) => headings.setLookalikeLevel(props.found, chosen),
});

function press(event: KeyboardEvent): void {
  if (event.target !== event.currentTarget || props.locked) return;
  if (event.key === "Enter") headings.accept([props.found]);
  else if (event.key === "Delete") void headings.refuse(props.found.text);
  else if (/^[1-6]$/.test(event.key)) level.value = Number(event.key);
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <tr
    class="extra"
    style="--extra-wash: var(--wait-wash)"
    tabindex="-1"
    :aria-label="`Looks like a heading: ${found.text}. Enter makes it a heading, Delete says that it is not one.`"
    @keydown="press"
  >
    <td class="level">
      <select
        v-model.number="level"
        class="field"
        :aria-label="`Level of ${found.text}`"
        tabindex="-1"
        :disabled="locked"
      >
        <option v-for="number in 6" :key="number" :value="number">h{{ number }}</option>
      </select>
    </td>
    <td colspan="4" :style="{ paddingLeft: `${(level - 1) * 10 + 4}px` }">
      <div class="row">
        <div class="what">
          <p class="words clipped" :title="found.text">{{ found.text }}</p>
          <p class="why small soft" :title="found.reasons.join(', ')">
            line {{ found.line }}, {{ found.score }} % sure:
            {{ found.reasons.join(", ") }}
          </p>
        </div>
        <el-button size="small" tabindex="-1" :disabled="locked" @click="headings.accept([found])">
          Make heading
        </el-button>
        <el-button text size="small" tabindex="-1" :disabled="locked" @click="headings.refuse(found.text)">
          Not a heading
        </el-button>
      </div>
    </td>
  </tr>
</template>

<style scoped src="./extra.css"></style>

<style scoped>
.level {
  padding-left: 6px;
}

.level .field {
  min-height: 24px;
  padding: 0 1px;
  font-size: 12px;
}

.words {
  font: italic 13.5px/1.4 var(--read);
}

.why {
  display: -webkit-box;
  overflow: hidden;
  line-height: 1.3;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
}
</style>
