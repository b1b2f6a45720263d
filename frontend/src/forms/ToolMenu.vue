<script lang="ts">
/** Something that can be done from the menu. */
export interface Tool {
  words: string;
  does: () => void;
  off?: boolean; // there is nothing to do
  always?: boolean; // even while nothing may be edited
  apart?: boolean; // a line is above it
}
</script>

<script setup lang="ts">
/** A menu of what is done less often. */
const props = defineProps<{ tools: readonly Tool[]; unable: boolean }>();

const isOff = (tool: Tool) => tool.off === true || (props.unable && !tool.always);
</script>

<template>
  <el-dropdown trigger="click" placement="bottom-end" :hide-on-click="true" @command="(tool: Tool) => tool.does()">
    <el-button size="small">More…</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-for="tool in tools"
          :key="tool.words + String(tool.apart)"
          :command="tool"
          :disabled="isOff(tool)"
          :divided="tool.apart"
          >{{ tool.words }}</el-dropdown-item
        >
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
