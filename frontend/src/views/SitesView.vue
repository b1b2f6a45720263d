<script setup lang="ts">
/** All sites, and the way to bring in another. */
import { useFileDialog } from "@vueuse/core";
import { onMounted, ref, shallowRef } from "vue";
import { RouterLink, useRouter } from "vue-router";
import { api, data, detailOf, type SiteEntry } from "../api/client";
import AppBar from "../components/AppBar.vue";
import FolderOpener from "../components/FolderOpener.vue";
import IntakePanel from "../components/IntakePanel.vue";
import SignIcon from "../components/SignIcon.vue";
import StateNote from "../components/StateNote.vue";

const router = useRouter();
const sites = shallowRef<SiteEntry[] | null>(null);
const problem = ref("");
const when = (text: string) => new Date(text).toLocaleDateString([], { dateStyle: "long" });

async function load(): Promise<void> {
  try {
    sites.value = await data(api.GET("/api/sites"));
    problem.value = "";
  } catch (error) {
    problem.value = detailOf(error);
  }
}

onMounted(() => {
  document.title = "Humble Signpost";
  void load();
});

const { open: choose, onChange } = useFileDialog({ accept: ".zip", multiple: false, reset: true });

/** Take in a desk that another installation exported. */
onChange(async (files) => {
  const file = files?.[0];
  if (!file) return;
  const form = new FormData();
  form.append("file", file);
  try {
    const site = await data(
      api.POST("/api/sites/desks", { body: form as never, bodySerializer: (body: unknown) => body as FormData }),
    );
    await open(site.site_id);
  } catch (error) {
    problem.value = detailOf(error);
  }
});

const open = (siteId: string) => router.push({ name: "site", params: { siteId } });
</script>

<template>
  <div class="screen">
    <AppBar />
    <main>
      <div class="lede">
        <h1>Find your way in a long page, and let your readers find theirs.</h1>
        <p class="soft">
          Bring in a folder of pages you wrote by hand. Give their sections identifiers, contents and back-to-top
          links, try every jump, cut what is too long into parts, and export the files. Outside the edits that you
          apply, not one byte changes.
        </p>
      </div>
      <IntakePanel @done="open" />
      <FolderOpener @done="open" />
      <section aria-labelledby="sites-title" class="sites">
        <div class="head">
          <h2 id="sites-title">Sites</h2>
          <el-button text size="small" @click="choose()">Import a desk…</el-button>
        </div>
        <StateNote v-if="problem" kind="failed" title="The sites cannot be listed" :text="problem"
          ><el-button @click="load">Try again</el-button></StateNote
        >
        <StateNote v-else-if="sites === null" kind="loading" title="Looking for your sites…" />
        <el-empty
          v-else-if="!sites.length"
          :image-size="64"
          description="No sites yet. Bring in a folder above, or look around the demo site first."
        />
        <ul v-else>
          <li v-for="site in sites" :key="site.site_id">
            <RouterLink :to="{ name: 'site', params: { siteId: site.site_id } }">
              <SignIcon name="folder" /><strong>{{ site.name }}</strong
              ><span class="soft small">brought in on {{ when(site.created_at) }}</span>
            </RouterLink>
          </li>
        </ul>
      </section>
    </main>
  </div>
</template>

<style scoped>
.screen {
  min-height: 100%;
  display: flex;
  flex-direction: column;
}

main {
  width: min(860px, 100% - 48px);
  margin: 40px auto 60px;
  display: flex;
  flex-direction: column;
  gap: 28px;
}

h1 {
  font: 600 29px/1.25 var(--read);
  letter-spacing: -0.01em;
  max-width: 24em;
  text-wrap: balance;
}

.lede p {
  margin-top: 10px;
  max-width: 66ch;
  font-size: 15px;
}

h2 {
  font: 650 18px/1.3 var(--read);
  margin-bottom: 8px;
}

.head {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
}

.sites ul {
  list-style: none;
  margin: 0;
  padding: 0;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.sites li + li {
  border-top: 1px solid var(--line);
}

.sites a {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 12px 14px;
  color: var(--ink);
  text-decoration: none;
}

.sites a:hover {
  background: var(--post-wash);
}

.sites a span {
  margin-left: auto;
}
</style>
