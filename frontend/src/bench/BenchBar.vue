<script setup lang="ts">
/** What is above the bench: page, source or both, and what is being chosen or typed there. */
import InsertMenu from "./InsertMenu.vue";
import SignIcon from "../components/SignIcon.vue";
import { useBench } from "../stores/bench";
import { useDialogs } from "../stores/dialogs";
import { usePage } from "../stores/page";
import { useTray } from "../stores/tray";
import { counted } from "../text/count";

defineProps<{ locked: string; selected: () => string }>();
const emit = defineEmits<{
  stop: [];
  discard: [];
  save: [];
  review: [];
  point: [];
  insert: [template: string];
  tidy: [];
}>();
const page = usePage();
const bench = useBench();
const dialogs = useDialogs();
const tray = useTray();

const LAYOUTS = [
  { value: "page", label: "Page" },
  { value: "both", label: "Both" },
  { value: "source", label: "Source" },
];
const SIZES = { least: 10, most: 20 };
const when = (at: string) => (at ? new Date(at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" }) : "");
</script>

<template>
  <div>
    <div class="bench-bar">
      <el-segmented v-model="bench.layout" :options="LAYOUTS" size="small" aria-label="Bench" />
      <p v-if="dialogs.picking || dialogs.linking || dialogs.placing" class="small wait grow" role="status">
        {{
          dialogs.picking
            ? `Choose where “${dialogs.picking.text.slice(0, 24)}” leads: on the page, the road or in the ledger`
            : dialogs.placing
              ? "Click the place on the page"
              : "Select the words, or click a link or a picture"
        }}
        <el-button size="small" @click="emit('stop')">Stop</el-button>
      </p>
      <template v-else-if="page.typing">
        <span class="small wait grow" role="status">Not saved</span>
        <el-button size="small" text :disabled="tray.busy" @click="emit('discard')">Discard</el-button>
        <el-button size="small" :disabled="tray.busy" @click="emit('review')">Show the edits</el-button>
        <el-button size="small" type="primary" :disabled="tray.busy" title="Ctrl S" @click="emit('save')"
          >Save</el-button
        >
      </template>
      <template v-else>
        <span class="grow" />
        <el-button
          v-if="!locked"
          size="small"
          text
          class="point"
          :aria-pressed="dialogs.pointing"
          title="Give an identifier to any place (i)"
          @click="emit('point')"
        >
          <SignIcon name="link" /> {{ dialogs.pointing ? "Click the place…" : "Identify a place" }}
        </el-button>
      </template>
      <template v-if="bench.showsSource">
        <InsertMenu v-if="!locked" :selected="selected" @insert="emit('insert', $event)" @tidy="emit('tidy')" />
        <el-button-group v-if="!page.typing" size="small" aria-label="Size of the source's type">
          <el-button
            size="small"
            title="Smaller type in the source"
            :disabled="bench.typeSize <= SIZES.least"
            @click="bench.typeSize -= 1"
            >A−</el-button
          >
          <el-button
            size="small"
            title="Larger type in the source"
            :disabled="bench.typeSize >= SIZES.most"
            @click="bench.typeSize += 1"
            >A+</el-button
          >
        </el-button-group>
      </template>
      <span v-if="!page.typing" class="soft small clipped" :title="`${page.view?.lines} lines`"
        >{{ page.view?.encoding }} ·
        {{ { "\n": "LF", "\r\n": "CRLF", "\r": "CR" }[page.view?.newline ?? "\n"] }}</span
      >
    </div>
    <div v-if="page.disputed" class="came small" role="alert">
      <span>The same lines were saved elsewhere. Yours are kept here, and not saved yet.</span>
      <el-button size="small" @click="dialogs.show({ name: 'draft' })">Decide…</el-button>
    </div>
    <div v-else-if="page.cameLines" class="came small" role="status">
      <span
        >{{ counted(page.cameLines, "line") }} came in from elsewhere;
        {{ page.cameLines === 1 ? "it is" : "they are" }} marked in the source.</span
      >
      <el-button v-if="!bench.showsSource" size="small" text @click="bench.show('source')">Show the source</el-button>
      <el-button size="small" text @click="page.cameLines = 0">Seen</el-button>
    </div>
    <el-alert v-if="page.kept && !page.typing" type="warning" :closable="false" class="kept">
      You typed something here {{ page.kept.at ? `on ${when(page.kept.at)}` : "" }} and did not save it<template
        v-if="page.kept.base !== page.saved?.revision"
        >; the page has changed since, and both are brought together</template
      >.
      <el-button size="small" type="primary" @click="page.takeBack()">Restore it</el-button>
      <el-button size="small" @click="page.dropDraft()">Discard it</el-button>
    </el-alert>
  </div>
</template>

<style scoped>
.bench-bar {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 0 10px;
  min-height: 36px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet-sunk);
}

.grow {
  flex: 1;
}

.came {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 10px;
  color: var(--wait);
  background: var(--wait-wash);
  border-bottom: 1px solid var(--line);
}

.came span {
  flex: 1;
}

.kept {
  border-radius: 0;
}
</style>
