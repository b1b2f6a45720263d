<script setup lang="ts">
/** All keys of the screen. */
import { computed } from "vue";
import { letterKeys, shownBindings, shownKey } from "../composables/useKeys";

const open = defineModel<boolean>({ required: true });
const listed = computed(() => shownBindings.value.filter((binding) => binding.words));
</script>

<template>
  <el-dialog v-model="open" title="Keyboard" width="620">
    <dl>
      <div v-for="binding in listed" :key="binding.words">
        <dt>
          <kbd v-for="key in binding.keys" :key="key">{{ shownKey(key) }}</kbd>
        </dt>
        <dd>{{ binding.words }}</dd>
      </div>
      <div>
        <dt><kbd>Space</kbd></dt>
        <dd>mark the section; in Contents, leave it out; in Parts, begin a part</dd>
      </div>
      <div>
        <dt><kbd>Enter</kbd> <kbd>Delete</kbd></dt>
        <dd>on a look-alike: make it a heading; not a heading</dd>
      </div>
    </dl>
    <el-switch v-model="letterKeys" active-text="Single-key shortcuts" />
  </el-dialog>
</template>

<style scoped>
dl {
  columns: 2;
  column-gap: 28px;
  margin: 0 0 14px;
}

dl div {
  display: flex;
  gap: 10px;
  padding: 3px 0;
  break-inside: avoid;
}

dt {
  width: 96px;
  flex: none;
}

dd {
  margin: 0;
}
</style>
