<script setup lang="ts">
/** What is done with findings as a whole: all fixed that need no question, taken away, how they are found. */
import { computed } from "vue";
import SignIcon from "../components/SignIcon.vue";

const props = defineProps<{ siteId: string; path?: string; fixable: number; locked?: boolean }>();
const emit = defineEmits<{ fix: []; rules: [] }>();

const FORMS = [
  { form: "html", words: "A page to print", aside: "HTML" },
  { form: "csv", words: "A table", aside: "CSV" },
  { form: "json", words: "As data", aside: "JSON" },
  { form: "sarif", words: "For other tools", aside: "SARIF 2.1.0" },
];
const address = computed(() => `/api/sites/${encodeURIComponent(props.siteId)}/report`);
const href = (form: string) =>
  `${address.value}?form=${form}${props.path ? `&path=${encodeURIComponent(props.path)}` : ""}`;
</script>

<template>
  <el-popover trigger="click" :width="230" placement="bottom-end">
    <template #reference
      ><el-button size="small" text><SignIcon name="take" /> Report</el-button></template
    >
    <ul class="forms">
      <li v-for="one in FORMS" :key="one.form">
        <a :href="href(one.form)" :download="`findings.${one.form}`"
          >{{ one.words }} <span class="soft small">{{ one.aside }}</span></a
        >
      </li>
    </ul>
  </el-popover>
  <el-button size="small" text @click="emit('rules')">Rules and set aside…</el-button>
  <el-button v-if="fixable" size="small" type="primary" :disabled="locked" @click="emit('fix')"
    >Fix {{ fixable.toLocaleString("en") }}</el-button
  >
</template>

<style scoped>
.forms {
  margin: 0;
  padding: 0;
  list-style: none;
}

.forms a {
  display: flex;
  justify-content: space-between;
  padding: 6px 8px;
  color: inherit;
  text-decoration: none;
}

.forms a:hover {
  background: var(--sheet-sunk);
}
</style>
