<script setup lang="ts" generic="T extends string | number | null">
/** One of several choices; a long list can be searched. */
import { computed } from "vue";

export interface Choice<V> {
  value: V;
  words: string;
  group?: string; // choices of one group are under its name
  off?: boolean;
}

const props = withDefaults(
  defineProps<{ choices: readonly Choice<T>[]; label: string; width?: number; size?: "small" | "default" }>(),
  { width: 0, size: "small" },
);
const chosen = defineModel<T>({ required: true });

/** How many choices can be looked through without searching. */
const SEARCHED_FROM = 12;
const NOTHING = "\u0000nothing"; // the library takes null for no choice at all
const held = computed<string | number>({
  get: () => chosen.value ?? NOTHING,
  set: (value) => (chosen.value = (value === NOTHING ? null : value) as T),
});
const groups = computed(() => {
  const found = new Map<string, Choice<T>[]>();
  for (const choice of props.choices) {
    const group = choice.group ?? "";
    found.set(group, [...(found.get(group) ?? []), choice]);
  }
  return [...found];
});
const keyOf = (value: T) => value ?? NOTHING;
</script>

<template>
  <el-select
    v-model="held"
    class="pick-one"
    :size="size"
    :aria-label="label"
    :empty-values="[null, undefined]"
    :filterable="choices.length > SEARCHED_FROM"
    :style="width ? { width: `${width}px` } : undefined"
  >
    <template v-for="[group, own] in groups" :key="group">
      <el-option-group v-if="group" :label="group">
        <el-option
          v-for="choice in own"
          :key="keyOf(choice.value)"
          :value="keyOf(choice.value)"
          :label="choice.words"
          :disabled="choice.off"
        />
      </el-option-group>
      <template v-else>
        <el-option
          v-for="choice in own"
          :key="keyOf(choice.value)"
          :value="keyOf(choice.value)"
          :label="choice.words"
          :disabled="choice.off"
        />
      </template>
    </template>
  </el-select>
</template>
