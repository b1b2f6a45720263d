<script setup lang="ts">
/** All keys of the screen, by what they are for. */
import { computed } from "vue";
import { letterKeys, shownBindings, shownKey } from "../composables/useKeys";

interface Line {
  keys: readonly string[];
  words: string;
}

/** Keys of the table itself, which work while a row has the focus. */
const IN_TABLE: Line[] = [
  { keys: ["Space"], words: "mark the section; in Contents, leave it out; in Parts, begin a part" },
  { keys: ["Enter"], words: "on a look-alike: make it a heading" },
  { keys: ["Delete"], words: "on a look-alike: it is not a heading" },
];

const open = defineModel<boolean>({ required: true });
const groups = computed(() => {
  const found = new Map<string, Line[]>();
  for (const { group, words, keys, shown } of shownBindings.value) {
    if (!words) continue;
    const lines = found.get(group) ?? [];
    found.set(group, [...lines, { words, keys: shown ? [shown] : keys.map((key) => shownKey(key)) }]);
  }
  return [...found, ["In the table", IN_TABLE] as const];
});
</script>

<template>
  <el-dialog v-model="open" title="Keyboard" width="980" top="7vh">
    <div class="groups">
      <section v-for="[group, lines] in groups" :key="group">
        <h3>{{ group }}</h3>
        <dl>
          <div v-for="line in lines" :key="line.words">
            <dt>
              <kbd v-for="key in line.keys" :key="key">{{ key }}</kbd>
            </dt>
            <dd>{{ line.words }}</dd>
          </div>
        </dl>
      </section>
    </div>
    <el-switch v-model="letterKeys" active-text="Single-key shortcuts" />
  </el-dialog>
</template>

<style scoped>
.groups {
  columns: 3;
  column-gap: 32px;
  margin-bottom: 16px;
}

section {
  break-inside: avoid;
  margin-bottom: 16px;
}

h3 {
  margin: 0 0 4px;
  font: 650 15px/1.4 var(--read);
}

dl {
  margin: 0;
}

dl div {
  display: flex;
  gap: 10px;
  padding: 2px 0;
}

dt {
  width: 76px;
  flex: none;
  display: flex;
  flex-wrap: wrap;
  align-content: start;
  gap: 2px 4px;
}

kbd {
  white-space: nowrap;
}

dd {
  margin: 0;
}
</style>
