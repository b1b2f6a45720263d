<script setup lang="ts">
/** How identifiers are made on this site. */
import { onMounted, ref } from "vue";
import { detailOf, type SiteSettings } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { useTray } from "../stores/tray";
import PickOne, { type Choice } from "../components/PickOne.vue";
import AskDialog from "./AskDialog.vue";

const choices = useChoices();
const dialogs = useDialogs();
const tray = useTray();
const settings = ref<SiteSettings | null>(null);
const problem = ref("");
const JOINERS: Choice<SiteSettings["joiner"]>[] = [
  { value: "-", words: "hyphens" },
  { value: "_", words: "underscores" },
  { value: ".", words: "dots" },
  { value: "", words: "nothing" },
];
const DIGITS: Choice<SiteSettings["digits"]>[] = [
  { value: "spell", words: "avoid: ten-things, season-1998" },
  { value: "lead", words: "put a word before it" },
  { value: "keep", words: "keep it" },
];

onMounted(async () => {
  try {
    settings.value = await choices.settings();
  } catch (error) {
    problem.value = detailOf(error);
  }
});

async function keep(): Promise<void> {
  if (!settings.value) return;
  try {
    await choices.saveSettings(settings.value);
    tray.notice = "Naming rules saved.";
    dialogs.close();
  } catch (error) {
    problem.value = detailOf(error);
  }
}
</script>

<template>
  <AskDialog title="Naming rules for identifiers" does="Save" :able="settings !== null" :problem="problem" @go="keep">
    <template v-if="settings">
      <div class="row">
        <el-form-item label="Longest, in characters">
          <el-input-number v-model="settings.longest" :min="8" :max="120" />
        </el-form-item>
        <el-form-item label="Fewest telling words">
          <el-input-number v-model="settings.least_words" :min="1" :max="10" />
        </el-form-item>
      </div>
      <div class="row">
        <el-form-item label="Words are joined by">
          <PickOne
            v-model="settings.joiner"
            :choices="JOINERS"
            label="Words are joined by"
            size="default"
            :width="150"
          />
        </el-form-item>
        <el-form-item label="Prefix">
          <el-input v-model="settings.prefix" class="code" maxlength="20" placeholder="none" />
        </el-form-item>
      </div>
      <el-form-item label="Levels that get identifiers">
        <el-checkbox-group v-model="settings.levels">
          <el-checkbox v-for="level in [1, 2, 3, 4, 5, 6]" :key="level" :value="level">h{{ level }}</el-checkbox>
        </el-checkbox-group>
      </el-form-item>
      <el-checkbox v-model="settings.transliterate">Write letters of all scripts as a to z</el-checkbox>
      <div class="row">
        <el-form-item label="A digit at the beginning">
          <PickOne
            v-model="settings.digits"
            :choices="DIGITS"
            label="A digit at the beginning"
            size="default"
            :width="270"
          />
        </el-form-item>
        <el-form-item label="Word before a digit"
          ><el-input v-model="settings.lead" class="code" maxlength="20"
        /></el-form-item>
      </div>
      <el-form-item label="Suggest a heading after so many words without one">
        <el-input-number v-model="settings.longest_run" :min="50" :step="50" />
      </el-form-item>
    </template>
  </AskDialog>
</template>
