<script setup lang="ts">
/** All keys of the page's desk. */
import { letterKeys } from "../composables/useKeys";

const open = defineModel<boolean>({ required: true });

const KEYS: [string, string][] = [
  ["↑ ↓, or j k", "previous, next section"],
  ["Enter", "edit the heading's words (stage Headings), its entry (stage Contents), or its identifier"],
  ["1 … 6", "level of the heading, or of those that are marked"],
  ["Shift ↑ ↓", "move the section up, down"],
  ["Shift ← →", "move it out of its section, into the one above"],
  ["< >", "raise, lower by a level where it stands"],
  ["Space", "mark the section, to change several at once (stage Headings)"],
  ["Enter, Delete", "on a look-alike: make it a heading, put it aside"],
  ["i", "an identifier for the place at the cursor or on the page"],
  ["Space", "leave out of the contents (stage Contents); begin a part (stage Parts)"],
  ["l", "a jump link from the words chosen in the source or on the page"],
  ["n, Shift N", "follow the next, the previous jump link"],
  ["b", "back to where the jump began"],
  ["x, Shift X", "follow the next, the previous one that wants mending"],
  ["z", "draw the selected section alone on the road, or the whole page"],
  ["Alt 1 … Alt 8", "stage of work"],
  ["F6", "next pane: road, ledger, bench, tray"],
  ["e, p", "source, or page, in the bench"],
  ["c", "copy the section's address"],
  ["d", "read the diff of what waits"],
  ["Ctrl Enter", "apply what waits"],
  ["Esc", "drop what waits"],
  ["Ctrl S", "in the source: show what was typed as edits; again: apply them"],
  ["Ctrl Z, Ctrl Shift Z", "undo, redo a change"],
  ["?", "these keys"],
];
</script>

<template>
  <el-dialog v-model="open" title="Keys" width="560">
    <dl>
      <div v-for="[key, what] in KEYS" :key="key">
        <dt>
          <kbd>{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </div>
    </dl>
    <el-checkbox class="letters"
       v-model="letterKeys">Letters and signs do something by themselves. Without this, only
      keys with Ctrl or Alt, arrows, Enter and Esc do.</el-checkbox>
  </el-dialog>
</template>

<style scoped>
dl {
  margin: 0;
}

dl div {
  display: flex;
  gap: 12px;
  padding: 2px 0;
}

.letters {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin-top: 12px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}

dt {
  width: 150px;
  flex: none;
}

dd {
  margin: 0;
}
</style>
