<script setup lang="ts">
/** A site's name, and its own address on the web. */
import { ref, watch } from "vue";
import { useSite } from "../stores/site";

const open = defineModel<boolean>({ required: true });
const site = useSite();
const name = ref("");
const base = ref("");
const problem = ref("");

watch(open, (now) => {
  if (!now) return;
  name.value = site.view?.name ?? "";
  base.value = site.view?.base ?? "";
  problem.value = "";
});

async function keep(): Promise<void> {
  problem.value = await site.rename(name.value, base.value.trim());
  open.value = problem.value !== "";
}
</script>

<template>
  <el-dialog v-model="open" title="Name and address" width="480">
    <el-form label-position="top" @submit.prevent="keep">
      <el-form-item label="Name"><el-input v-model="name" required maxlength="200" /></el-form-item>
      <el-form-item label="Address of the site on the web">
        <el-input v-model="base" type="url" placeholder="https://www.example.org/club/" />
      </el-form-item>
      <p class="soft small">
        With it, full addresses of sections can be copied, and links that use it count as links within the site.
      </p>
      <el-alert v-if="problem" :title="problem" type="error" :closable="false" role="alert" />
      <div class="foot"><el-button native-type="submit" type="primary">Save</el-button></div>
    </el-form>
  </el-dialog>
</template>

<style scoped>
.foot {
  display: flex;
  justify-content: flex-end;
  padding-top: 12px;
}
</style>
