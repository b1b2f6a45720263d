<script setup lang="ts">
import en from "element-plus/es/locale/lang/en";
import { RouterView } from "vue-router";
</script>

<template>
  <el-config-provider :locale="en">
    <RouterView />
  </el-config-provider>
</template>
