<script setup lang="ts">
/** Bringing a site in: drop or choose a folder, a ZIP or files, or paste a page's source. */
import { computed, ref } from "vue";
import { useIntake } from "../composables/useIntake";
import SignIcon from "./SignIcon.vue";

const props = defineProps<{ into?: string }>(); // a site that is there; without one, a new site comes of the files
const emit = defineEmits<{ done: [siteId: string] }>();
const intake = useIntake(props.into);
const over = ref(false);
const pasting = ref(false);
const name = ref("page.html");
const text = ref("");
const folder = ref<HTMLInputElement | null>(null);
const files = ref<HTMLInputElement | null>(null);

const percent = computed(() =>
  intake.total.value ? Math.min(100, Math.round((100 * intake.sent.value) / intake.total.value)) : 0,
);

async function after(work: Promise<void>): Promise<void> {
  await work;
  if (intake.site.value && !intake.skipped.value.length) emit("done", intake.site.value);
}

function drop(event: DragEvent): void {
  over.value = false;
  if (event.dataTransfer) void after(intake.bringDropped(event.dataTransfer));
}

function chosen(event: Event): void {
  const field = event.target as HTMLInputElement;
  if (field.files?.length) void after(intake.bringChosen(field.files)).then(() => (field.value = ""));
}

async function paste(): Promise<void> {
  await after(intake.bringPasted(name.value.trim(), text.value));
  pasting.value = false;
}
</script>

<template>
  <section
    class="intake"
    :class="{ over }"
    aria-labelledby="intake-title"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <h2 id="intake-title">{{ into ? "Bring in more files" : "Bring in a site" }}</h2>
    <p class="soft">Drop a folder, a ZIP or some pages here. They are copied; your own files are not changed.</p>
    <div class="actions">
      <el-button type="primary" :disabled="intake.busy.value" @click="folder?.click()">
        <SignIcon name="folder" /> Choose a folder
      </el-button>
      <el-button :disabled="intake.busy.value" @click="files?.click()">
        <SignIcon name="bring" /> Choose a ZIP or files
      </el-button>
      <el-button :disabled="intake.busy.value" @click="pasting = true">
        <SignIcon name="page" /> Paste a source
      </el-button>
    </div>
    <input ref="folder" type="file" webkitdirectory multiple hidden aria-label="Folder" @change="chosen" />
    <input ref="files" type="file" multiple hidden aria-label="ZIP or files" @change="chosen" />

    <el-checkbox v-if="into" v-model="intake.replacing.value"
      >Replace files that are here already (this can be undone)</el-checkbox
    >

    <div v-if="intake.busy.value" class="progress" role="status">
      <el-progress :percentage="percent" :stroke-width="8" :show-text="false" aria-label="Sent" />
      <span class="small">{{ percent < 100 ? `Sending: ${percent} %` : "Unpacking and keeping the files…" }}</span>
    </div>
    <p v-if="intake.problem.value" class="problem" role="alert">{{ intake.problem.value }}</p>
    <div v-if="intake.skipped.value.length" class="skipped" role="status">
      <p>
        <strong>{{ intake.taken.value }}</strong> files taken,
        <strong>{{ intake.skipped.value.length }}</strong> skipped:
      </p>
      <ul>
        <li v-for="one in intake.skipped.value" :key="one.path">
          <code>{{ one.path || "(no name)" }}</code> {{ one.reason }}
        </li>
      </ul>
      <div class="actions">
        <el-button
          v-if="intake.skipped.value.some((one) => one.asks)"
          :disabled="intake.busy.value"
          @click="intake.bringAnyway"
          >Bring in the look-alikes too</el-button
        >
        <el-button type="primary" v-if="intake.site.value" @click="emit('done', intake.site.value)">
          {{ into ? "Close" : "Open the site" }}
        </el-button>
      </div>
    </div>

    <el-dialog v-model="pasting" title="Paste a page's source" width="640">
      <el-form label-position="top" class="paste" @submit.prevent="paste">
        <el-form-item label="Name of the page"><el-input v-model="name" required /></el-form-item>
        <el-form-item label="Source">
          <el-input
            v-model="text"
            type="textarea"
            class="code"
            :rows="14"
            required
            placeholder="<!DOCTYPE html> …"
            spellcheck="false"
          />
        </el-form-item>
        <el-button native-type="submit" type="primary" :disabled="!text.trim() || intake.busy.value"
          >Bring in</el-button
        >
      </el-form>
    </el-dialog>
  </section>
</template>

<style scoped>
.intake {
  padding: 22px 24px;
  border: 2px dashed var(--line-strong);
  border-radius: 10px;
  background: var(--sheet);
}

.intake.over {
  border-color: var(--post);
  background: var(--post-wash);
}

h2 {
  font: 650 18px/1.3 var(--read);
}

.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 14px;
}

.progress,
.problem,
.skipped {
  margin-top: 14px;
}

.problem {
  color: var(--wrong);
}

.skipped ul {
  max-height: 180px;
  overflow: auto;
  margin: 6px 0 10px;
  padding-left: 18px;
}

.paste {
  display: flex;
  flex-direction: column;
}

.paste .el-button {
  align-self: flex-end;
}
</style>
