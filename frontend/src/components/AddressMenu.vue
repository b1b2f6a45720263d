<script setup lang="ts">
/** A section's address, copied in the form that is wanted. */
import { ref } from "vue";
import { api, data, detailOf, type Addresses, type SectionView } from "../api/client";
import SignIcon from "./SignIcon.vue";

const props = defineProps<{ siteId: string; path: string; section: SectionView }>();

const open = ref(false);
const addresses = ref<Addresses | null>(null);
const said = ref("");
const button = ref<HTMLButtonElement | null>(null);

const FORMS = [
  ["fragment", "Fragment"],
  ["relative", "Relative address"],
  ["full", "Full address"],
  ["link", "Whole link"],
] as const;

async function show(): Promise<void> {
  open.value = !open.value;
  said.value = "";
  if (!open.value) return;
  try {
    addresses.value = await data(
      api.GET("/api/sites/{site_id}/addresses", {
        params: { path: { site_id: props.siteId }, query: { path: props.path, section: props.section.index } },
      }),
    );
  } catch (error) {
    said.value = detailOf(error);
  }
}

async function copy(text: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    said.value = "Copied.";
    open.value = false;
    button.value?.focus();
  } catch {
    said.value = "The browser does not let it be copied; select it and copy it by hand.";
  }
}

function leave(event: FocusEvent): void {
  if (!(event.currentTarget as HTMLElement).contains(event.relatedTarget as Node | null)) open.value = false;
}
</script>

<template>
  <div
    class="address"
    @focusout="leave"
    @keydown.esc.stop="
      open = false;
      button?.focus();
    "
  >
    <button
      ref="button"
      type="button"
      class="button quiet icon opener"
      :disabled="!section.identifier"
      tabindex="-1"
      :aria-label="`Copy the address of ${section.text}`"
      :aria-expanded="open"
      :title="section.identifier ? 'Copy its address' : 'Without an identifier it has no address'"
      @click.stop="show"
    >
      <SignIcon name="link" />
    </button>
    <div v-if="open" class="menu">
      <p v-if="said" class="small">{{ said }}</p>
      <template v-else-if="addresses">
        <template v-for="[form, label] in FORMS" :key="form">
          <button v-if="addresses[form]" type="button" class="choice" @click.stop="copy(addresses[form] ?? '')">
            <span>{{ label }}</span><code>{{ addresses[form] }}</code>
          </button>
        </template>
        <p v-if="!addresses.full" class="small soft">
          For full addresses, give the site its own address on the site's desk.
        </p>
      </template>
    </div>
  </div>
</template>

<style scoped>
.address {
  position: relative;
}

.opener:disabled {
  visibility: hidden;
}

.menu {
  position: absolute;
  right: 0;
  top: 100%;
  z-index: 5;
  width: 340px;
  padding: 6px;
  background: var(--sheet);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  box-shadow: var(--shadow);
}

.choice {
  display: flex;
  flex-direction: column;
  width: 100%;
  padding: 5px 8px;
  border: 0;
  border-radius: 4px;
  background: none;
  text-align: left;
  cursor: pointer;
}

.choice:hover,
.choice:focus-visible {
  background: var(--post-wash);
}

.choice code {
  color: var(--plate);
  overflow-wrap: anywhere;
}

.menu p {
  padding: 5px 8px;
}
</style>
