<script setup lang="ts">
/** Markup put in at the cursor by its plain name; what is selected can be kept as a snippet of the author's own. */
import { ElMessageBox } from "element-plus";
import { computed, ref } from "vue";
import { usePage } from "../stores/page";
import { inHand, literally, listOf, ownSnippets, PLAIN_HAND, SNIPPETS, tableOf, type Snippet } from "./snippets";

const props = defineProps<{ selected: () => string }>();
const emit = defineEmits<{ insert: [template: string]; tidy: [] }>();

const page = usePage();
const hand = computed(() => page.view?.hand ?? PLAIN_HAND);
const markup = ref(""); // what is selected when the menu opens

async function ask(message: string, title: string, value: string, pattern: RegExp): Promise<string | null> {
  try {
    const answer = await ElMessageBox.prompt(message, title, {
      inputValue: value,
      inputPattern: pattern,
      inputErrorMessage: "This cannot be read.",
      confirmButtonText: title,
    });
    return "value" in answer ? answer.value.trim() : null;
  } catch {
    return null;
  }
}

async function choose(chosen: Snippet | "list" | "table" | "keep" | "tidy"): Promise<void> {
  if (chosen === "list") {
    const items = await ask("How many items?", "Insert list", "3", /^\s*\d{1,2}\s*$/);
    if (items) emit("insert", inHand(listOf(Number(items)), hand.value));
  } else if (chosen === "table") {
    const size = await ask(
      "Rows and columns, such as 3 × 4",
      "Insert table",
      "3 × 4",
      /^\s*\d{1,2}\s*[x×]\s*\d{1,2}\s*$/,
    );
    const [rows, columns] = (size ?? "").split(/[x×]/).map(Number);
    if (rows && columns) emit("insert", inHand(tableOf(rows, columns), hand.value));
  } else if (chosen === "keep") {
    const chosenMarkup = markup.value;
    const name = await ask("A name for what is selected", "Keep as snippet", "", /\S/);
    if (name) ownSnippets.value = [...ownSnippets.value, { name, template: literally(chosenMarkup) }];
  } else if (chosen === "tidy") emit("tidy");
  else emit("insert", ownSnippets.value.includes(chosen) ? chosen.template : inHand(chosen.template, hand.value));
}

const forget = (one: Snippet) => (ownSnippets.value = ownSnippets.value.filter((other) => other !== one));
const fixed = SNIPPETS.filter((one) => !/^(list|table)/.test(one.name));
</script>

<template>
  <el-dropdown trigger="click" @visible-change="markup = props.selected()" @command="choose">
    <el-button size="small" title="Insert markup at the cursor">Insert…</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="one in fixed" :key="one.name" :command="one">{{ one.name }}</el-dropdown-item>
        <el-dropdown-item command="list">list…</el-dropdown-item>
        <el-dropdown-item command="table">table…</el-dropdown-item>
        <el-dropdown-item v-for="(one, at) in ownSnippets" :key="one.name" :command="one" :divided="at === 0">
          {{ one.name }}
          <el-button text size="small" :aria-label="`Forget ${one.name}`" @click.stop="forget(one)">×</el-button>
        </el-dropdown-item>
        <el-dropdown-item divided command="tidy" :disabled="!markup"
          >Tidy the indentation of the selection</el-dropdown-item
        >
        <el-dropdown-item command="keep" :disabled="!markup">Keep the selection as a snippet…</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
