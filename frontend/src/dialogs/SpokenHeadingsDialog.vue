<script setup lang="ts">
/** The outline as the user of a screen reader hears it. */
import { onMounted, ref } from "vue";
import { detailOf, type SpokenHeading } from "../api/client";
import { useChoices } from "../stores/choices";
import { useDialogs } from "../stores/dialogs";
import { counted } from "../text/count";
import { usePage } from "../stores/page";

const choices = useChoices();
const dialogs = useDialogs();
const page = usePage();
const spoken = ref<SpokenHeading[]>([]);
const problem = ref("");

onMounted(async () => {
  try {
    spoken.value = await choices.spokenHeadings();
  } catch (error) {
    problem.value = detailOf(error);
  }
});

function go(one: SpokenHeading): void {
  if (one.section !== null) page.select(one.section);
  dialogs.close();
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="Outline as read aloud"
    width="560"
    align-center
    append-to-body
    @close="dialogs.close()"
  >
    <p class="soft small">What a screen reader says from heading to heading, navigation and footer included.</p>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" />
    <ol>
      <li v-for="(one, at) in spoken" :key="at">
        <el-button text class="line" @click="go(one)">
          <span class="say">Heading level {{ one.level }}</span> {{ one.text || "(no words)" }}
          <span v-if="one.section === null" class="soft small">(not content)</span>
          <span v-if="one.skipped" class="skip small">{{ counted(one.skipped, "level") }} skipped</span>
        </el-button>
      </li>
    </ol>
  </el-dialog>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 58vh;
  overflow: auto;
}

.line {
  justify-content: flex-start;
  width: 100%;
  font-family: var(--read);
}

.say {
  font: 600 12px var(--ui);
  color: var(--ink-soft);
}

.skip {
  font-family: var(--ui);
  color: var(--wait);
  font-weight: 600;
}
</style>
