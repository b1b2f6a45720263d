<script setup lang="ts">
/** A folder of this computer opened as a site: it stays where it is, and is watched. */
import { ref } from "vue";
import { api, data, detailOf } from "../api/client";

const emit = defineEmits<{ done: [siteId: string] }>();
const path = ref("");
const found = ref<string[]>([]);
const usable = ref(true);
const busy = ref(false);
const problem = ref("");

/** Offer the folders within the one that is typed; without a word, those where one can begin. */
async function look(): Promise<void> {
  const under = path.value.trim().replace(/[^/\\]*$/, "");
  try {
    found.value = await data(api.GET("/api/folders", { params: { query: { under } } }));
  } catch {
    found.value = [];
  }
}

async function begin(): Promise<void> {
  const roots = await data(api.GET("/api/folders", { params: { query: {} } })).catch(() => []);
  usable.value = roots.length > 0;
  if (!path.value) found.value = roots;
  if (path.value) return; // somebody has begun to type
  path.value = roots[0] ? `${roots[0]}/` : "";
  if (path.value) await look();
}
void begin();

async function open(): Promise<void> {
  if (!path.value.trim() || busy.value) return;
  busy.value = true;
  problem.value = "";
  try {
    const trimmed = path.value.trim();
    const site = await data(
      api.POST("/api/folders", { body: { path: trimmed.length > 1 ? trimmed.replace(/[/\\]+$/, "") : trimmed } }),
    );
    emit("done", site.site_id);
  } catch (error) {
    problem.value = detailOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <section v-if="usable" class="opener" aria-labelledby="opener-title">
    <h2 id="opener-title">Or work on a folder where it is</h2>
    <form @submit.prevent="open">
      <el-input
        v-model="path"
        class="code path"
        spellcheck="false"
        autocomplete="off"
        list="folders-here"
        aria-label="Folder on this computer"
        @input="look"
      />
      <datalist id="folders-here"><option v-for="one in found" :key="one" :value="one" /></datalist>
      <el-button native-type="submit" type="primary" :loading="busy" :disabled="!path.trim()"
        >Open the folder</el-button
      >
    </form>
    <el-alert v-if="problem" :title="problem" type="error" :closable="false" role="alert" show-icon />
    <p class="soft small">
      Your editor stays as it is: what you save there appears here, and what you apply here is saved there. In a
      terminal, <code>signpost desk</code> with the folder's name does the same.
    </p>
  </section>
</template>

<style scoped>
.opener {
  display: flex;
  flex-direction: column;
  gap: 8px;
}

h2 {
  font: 650 18px/1.3 var(--read);
}

form {
  display: flex;
  gap: 8px;
}

.path {
  flex: 1;
}
</style>
