<script setup lang="ts">
/** Identifiers that several elements have: who links to them, which one is reached, and new ones for the others. */
import { computed } from "vue";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";

const dialogs = useDialogs();
const page = usePage();
const tray = useTray();
const MOST = 6;
const twice = computed(() => page.view?.structure.twice ?? []);

/** Where the links are, as many as can be read at a glance. */
function whence(links: readonly { page: string; line: number }[]): string {
  const shown = links.slice(0, MOST).map((link) => `${link.page} line ${link.line}`);
  return shown.join(", ") + (links.length > MOST ? `, and ${links.length - MOST} more` : "");
}

function apart(name: string): void {
  void tray.propose({ operation: "apart", page: page.path, name });
  dialogs.close();
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="Identifiers used twice"
    width="560"
    align-center
    append-to-body
    @close="dialogs.close()"
  >
    <p class="soft small">
      A browser goes to the first element with this id, or else to the first anchor with this name. Links cannot reach
      the others.
    </p>
    <ul>
      <li v-for="found in twice" :key="found.name">
        <div>
          <p>
            <span class="plate">{{ found.name }}</span>
            <span class="soft small"
              >{{ found.links.length || "no" }} {{ found.links.length === 1 ? "link leads" : "links lead" }} to it{{
                found.links.length ? ":" : ""
              }}
              {{ whence(found.links) }}</span
            >
          </p>
          <p class="small">
            Reached: {{ found.element }}, line {{ found.line }}. Not reached:
            {{ found.others.map((line) => `line ${line}`).join(", ") }}.
          </p>
        </div>
        <el-button @click="apart(found.name)">Rename the others</el-button>
      </li>
    </ul>
  </el-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: 58vh;
  overflow: auto;
}

li {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}

li div {
  flex: 1;
}

.plate {
  margin-right: 6px;
}
</style>
