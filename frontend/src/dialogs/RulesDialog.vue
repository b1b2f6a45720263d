<script setup lang="ts">
/** How identifiers are made on this site. */
import { onMounted, ref } from "vue";
import { detailOf, type SiteSettings } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { useTray } from "../stores/tray";
import AskDialog from "./AskDialog.vue";

const choices = useChoices();
const dialogs = useDialogs();
const tray = useTray();
const settings = ref<SiteSettings | null>(null);
const problem = ref("");

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
    tray.said = "Settings kept; proposals follow them from now on.";
    dialogs.close();
  } catch (error) {
    problem.value = detailOf(error);
  }
}
</script>

<template>
  <AskDialog
    title="How identifiers are made on this site"
    does="Keep"
    :able="settings !== null"
    :problem="problem"
    @go="keep"
  >
    <template v-if="settings">
      <div class="row">
        <label
          >At most
          <input v-model.number="settings.longest" class="field short" type="number" min="8" max="120" />
          characters,</label
        >
        <label
          >at least
          <input v-model.number="settings.least_words" class="field short" type="number" min="1" max="10" /> telling
          words</label
        >
      </div>
      <div class="row">
        <label
          >Words joined by
          <select v-model="settings.joiner" class="field">
            <option value="-">hyphens</option>
            <option value="_">underscores</option>
            <option value=".">dots</option>
            <option value="">nothing</option>
          </select>
        </label>
        <label
          >Before each
          <input v-model="settings.prefix" class="field code" maxlength="20" placeholder="nothing" size="10"
        /></label>
      </div>
      <div class="row" role="group" aria-label="Levels that get identifiers">
        Levels
        <label v-for="level in [1, 2, 3, 4, 5, 6]" :key="level"
          ><input v-model="settings.levels" type="checkbox" :value="level" /> {{ level }}</label
        >
      </div>
      <div class="row">
        <label
          ><input v-model="settings.transliterate" type="checkbox" /> letters of all scripts written in a to z</label
        >
      </div>
      <div class="row">
        <label
          >A digit first
          <select v-model="settings.digits" class="field">
            <option value="spell">is avoided: ten-things, season-1998</option>
            <option value="lead">gets a word before it</option>
            <option value="keep">stays</option>
          </select>
        </label>
        <label>Word before it <input v-model="settings.lead" class="field code" maxlength="20" size="10" /></label>
      </div>
      <div class="row">
        <label
          >Point out more than
          <input v-model.number="settings.longest_run" class="field short" type="number" min="50" /> words without a
          heading</label
        >
      </div>
    </template>
  </AskDialog>
</template>
