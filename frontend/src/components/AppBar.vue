<script setup lang="ts">
/** The bar at the top of every screen: where one is, and what is always there. */
import { RouterLink } from "vue-router";
import { useTheme } from "../composables/useTheme";
import SignIcon from "./SignIcon.vue";

const { theme, turn } = useTheme();
/** The server says so in a cookie where it asks for a key. */
const canSignOut = document.cookie.split("; ").includes("signpost-can-sign-out=1");
</script>

<template>
  <header class="bar">
    <RouterLink to="/" class="home" title="All sites">
      <SignIcon name="post" /><span>Humble Signpost</span>
    </RouterLink>
    <div class="trail"><slot name="trail" /></div>
    <div class="ways">
      <slot />
      <el-button
        text
        class="icon"
        :aria-label="theme === 'dark' ? 'Light theme' : 'Dark theme'"
        :title="theme === 'dark' ? 'Light theme' : 'Dark theme'"
        @click="turn"
      >
        <SignIcon :name="theme === 'dark' ? 'sun' : 'moon'" />
      </el-button>
      <form v-if="canSignOut" method="post" action="/sign-out">
        <el-button text native-type="submit">Sign out</el-button>
      </form>
    </div>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 44px;
  padding: 0 12px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
  flex: none;
}

.home {
  display: flex;
  align-items: center;
  gap: 7px;
  color: var(--post);
  text-decoration: none;
  font: 650 15px/1 var(--read);
}

.trail {
  display: flex;
  align-items: center;
  gap: 6px;
  min-width: 0;
  flex: 1;
  overflow: hidden;
  white-space: nowrap;
}

.ways {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
