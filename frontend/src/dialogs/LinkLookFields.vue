<script setup lang="ts">
/** What a link says beside its address; what its author leaves alone stays as it is. */
import type { AddressKind } from "./AddressFields.vue";

export interface Look {
  title: string;
  new_window: boolean;
  tells_window: boolean;
  rel: string;
  language: string;
  download: boolean;
}

defineProps<{
  kind: AddressKind | "site";
  own?: boolean; // whether it leads to the same page
}>();
const look = defineModel<Look>({ required: true });
const say = (more: Partial<Look>) => (look.value = { ...look.value, ...more });
</script>

<template>
  <el-form-item label="Tooltip (title), if you want one"
    ><el-input :model-value="look.title" maxlength="200" @update:model-value="say({ title: $event })"
  /></el-form-item>
  <el-checkbox
    v-if="kind === 'file'"
    :model-value="look.download"
    @update:model-value="say({ download: Boolean($event) })"
    >Save the file instead of opening it</el-checkbox
  >
  <template v-if="kind !== 'mail' && kind !== 'phone'">
    <div class="row">
      <el-checkbox :model-value="look.new_window" @update:model-value="say({ new_window: Boolean($event) })"
        >Open in a new window{{ own ? ", though it is the same page" : "" }}</el-checkbox
      >
      <el-checkbox
        v-if="look.new_window"
        :model-value="look.tells_window"
        @update:model-value="say({ tells_window: Boolean($event) })"
        >Tell readers, in words behind the link's</el-checkbox
      >
    </div>
    <div class="row">
      <el-form-item label="Relation (rel)"
        ><el-input
          :model-value="look.rel"
          class="code"
          placeholder="nofollow"
          maxlength="200"
          @update:model-value="say({ rel: $event })"
      /></el-form-item>
      <el-form-item label="Language of the target"
        ><el-input
          :model-value="look.language"
          class="code"
          placeholder="de"
          maxlength="40"
          @update:model-value="say({ language: $event })"
      /></el-form-item>
    </div>
  </template>
</template>
