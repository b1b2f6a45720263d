<script setup lang="ts">
/** A link to another screen that looks like a button. */
import { RouterLink, type RouteLocationRaw } from "vue-router";

defineProps<{ to: RouteLocationRaw }>();
defineOptions({ inheritAttrs: false });
</script>

<template>
  <RouterLink v-slot="{ href, navigate }" :to="to" custom>
    <el-button tag="a" v-bind="$attrs" :href="href" @click="navigate"><slot /></el-button>
  </RouterLink>
</template>
