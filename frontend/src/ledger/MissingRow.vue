<script setup lang="ts">
/** A place where a heading seems to be missing. */
import type { MissingView } from "../api/client";
import { useDialogs } from "../stores/dialogs";

const props = defineProps<{ found: MissingView; locked: boolean }>();
const dialogs = useDialogs();
const put = () => dialogs.show({ name: "heading", missing: props.found });
</script>

<template>
  <tr
    class="extra"
    tabindex="-1"
    :aria-label="`${found.reason}. Enter inserts a heading before ${found.text}`"
    @keydown.enter.exact.self.prevent.stop="locked || put()"
  >
    <td class="level soft">–</td>
    <td colspan="4" :style="{ paddingLeft: `${(found.level - 1) * 10 + 4}px` }">
      <div class="row">
        <p class="what small clipped" :title="found.text">
          <strong>{{ found.reason }}</strong>, line {{ found.line }}
          <span class="soft">before “{{ found.text }}”</span>
        </p>
        <el-button size="small" tabindex="-1" :disabled="locked" @click="put">Insert a heading…</el-button>
      </div>
    </td>
  </tr>
</template>

<style scoped src="./extra.css"></style>
