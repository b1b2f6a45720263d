<script setup lang="ts">
/** A section's address, copied in the form that is wanted. */
import { ElMessage } from "element-plus";
import { ref } from "vue";
import { api, data, detailOf, type Addresses, type SectionView } from "../api/client";
import SignIcon from "./SignIcon.vue";

const props = defineProps<{ siteId: string; path: string; section: SectionView }>();

const open = ref(false);
const addresses = ref<Addresses | null>(null);
const opener = ref<{ ref?: HTMLElement } | null>(null);

const FORMS = [
  ["fragment", "Fragment"],
  ["relative", "Relative address"],
  ["full", "Full address"],
  ["link", "HTML link"],
] as const;

async function show(): Promise<void> {
  if (open.value) {
    close();
    return;
  }
  try {
    addresses.value = await data(
      api.GET("/api/sites/{site_id}/addresses", {
        params: { path: { site_id: props.siteId }, query: { path: props.path, section: props.section.index } },
      }),
    );
    open.value = true;
  } catch (error) {
    ElMessage({ message: detailOf(error), type: "error" });
  }
}

function close(): void {
  open.value = false;
  opener.value?.ref?.focus();
}

async function copy(text: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    ElMessage({ message: "Copied.", type: "success" });
  } catch {
    ElMessage({ message: "The browser does not allow copying. Select the address and copy it.", type: "warning" });
  }
  close();
}

function leave(event: FocusEvent): void {
  const to = event.relatedTarget as HTMLElement | null;
  if (!to?.closest(".addresses")) open.value = false;
}
</script>

<template>
  <span @focusout="leave" @keydown.esc.stop="close">
    <el-button
      ref="opener"
      text
      size="small"
      class="opener"
      :disabled="!section.identifier"
      tabindex="-1"
      :aria-label="`Copy the address of ${section.text}`"
      :aria-expanded="open"
      :title="section.identifier ? 'Copy its address (c)' : 'Without an identifier it has no address'"
      @click.stop="show"
    >
      <SignIcon name="link" />
    </el-button>
    <el-popover
      v-if="open && addresses"
      :visible="open"
      :virtual-ref="opener?.ref"
      virtual-triggering
      :width="360"
      placement="bottom-end"
      popper-class="addresses"
      :teleported="false"
    >
      <template v-for="[form, label] in FORMS" :key="form">
        <el-button v-if="addresses[form]" text class="choice" @click.stop="copy(addresses[form] ?? '')">
          <span class="choice-lines"
            ><span>{{ label }}</span
            ><code>{{ addresses[form] }}</code></span
          >
        </el-button>
      </template>
      <p v-if="!addresses.full" class="small soft">
        For full addresses, give the site its address on the site's desk.
      </p>
    </el-popover>
  </span>
</template>

<style scoped>
.opener {
  width: 26px;
  height: 24px;
  padding: 0;
}

.opener.is-disabled {
  visibility: hidden;
}

.choice {
  justify-content: flex-start;
  width: 100%;
  height: auto;
  padding: 5px 8px;
  white-space: normal;
  text-align: left;
}

.choice-lines {
  display: flex;
  flex-direction: column;
}

.choice code {
  color: var(--plate);
  overflow-wrap: anywhere;
}
</style>
