<script setup lang="ts">
/** One finding: its place and reason, the ways to fix it, and setting it aside. */
import { ref } from "vue";
import type { FindingView } from "../api/client";
import SignIcon from "../components/SignIcon.vue";
import type { Scope } from "../stores/checks";

const props = defineProps<{ finding: FindingView; withPage?: boolean; locked?: boolean; alone?: boolean }>();
const emit = defineEmits<{
  go: [];
  fix: [choice: number | null];
  aside: [scope: Scope, reason: string];
}>();

const SCOPES: { value: Scope; words: string }[] = [
  { value: "place", words: "this one" },
  { value: "page", words: "all of its kind on this page" },
  { value: "site", words: "all of its kind on the site" },
];
const MOST = 64; // letters of a choice that a button shows
const scope = ref<Scope>("place");
const reason = ref("");
const asking = ref(false);

const short = (words: string) => (words.length > MOST ? `${words.slice(0, MOST - 1)}…` : words);

function setAside(): void {
  asking.value = false;
  emit("aside", scope.value, reason.value.trim());
}
</script>

<template>
  <li :class="props.finding.severity">
    <button type="button" class="finding" @click="emit('go')">
      <SignIcon v-if="alone" name="wrong" />
      <span class="what">
        <strong v-if="alone">{{ finding.title }}</strong>
        <span>{{ finding.message }}</span>
      </span>
      <span class="where soft small">{{ withPage ? `${finding.page}, ` : "" }}line {{ finding.line }}</span>
    </button>
    <div class="ways small">
      <el-button
        v-if="finding.fixable"
        class="way"
        size="small"
        :disabled="locked"
        :title="finding.choices[0]"
        @click="emit('fix', null)"
        >{{ finding.choices.length === 1 ? short(finding.choices[0]!) : "Fix" }}</el-button
      >
      <template v-else-if="finding.choices.length">
        <el-button class="way" size="small" :disabled="locked" :title="finding.choices[0]" @click="emit('fix', 0)">{{
          short(finding.choices[0]!)
        }}</el-button>
        <el-dropdown v-if="finding.choices.length > 1" :persistent="false" trigger="click" :disabled="locked">
          <el-button size="small" text :disabled="locked">Other ways</el-button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item
                v-for="(words, index) in finding.choices.slice(1)"
                :key="words"
                @click="emit('fix', index + 1)"
                >{{ words }}</el-dropdown-item
              >
            </el-dropdown-menu>
          </template>
        </el-dropdown>
      </template>
      <el-popover v-model:visible="asking" :persistent="false" trigger="click" :width="300" placement="bottom-end">
        <template #reference>
          <el-button size="small" text class="put-aside" :disabled="locked" :aria-expanded="asking"
            >Set aside…</el-button
          >
        </template>
        <form class="asking" @submit.prevent="setAside">
          <el-radio-group v-model="scope" aria-label="What is set aside">
            <el-radio v-for="one in SCOPES" :key="one.value" :value="one.value">{{ one.words }}</el-radio>
          </el-radio-group>
          <el-input v-model="reason" size="small" maxlength="300" placeholder="Why (optional)" aria-label="Why" />
          <el-button size="small" type="primary" native-type="submit">Set aside</el-button>
        </form>
      </el-popover>
    </div>
  </li>
</template>

<style scoped>
li {
  border-bottom: 1px solid var(--line);
}

/* a row that is pressed as a whole, with pieces of text of its own */
.finding {
  display: flex;
  gap: 10px;
  width: 100%;
  padding: 8px 12px 4px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}

.finding:hover {
  background: var(--sheet-sunk);
}

.finding:focus-visible {
  outline-offset: -2px;
}

.what {
  flex: 1;
  display: flex;
  flex-direction: column;
  overflow-wrap: anywhere;
}

.where {
  min-width: 76px;
  min-height: 44px;
  max-width: 40%;
  text-align: right;
  overflow-wrap: anywhere;
}

/* where only setting aside is left, it stands beside the message, under its place, which leaves room for it */
li:not(:has(.way)) .where {
  padding-bottom: 26px;
}

.ways:not(:has(.way)) {
  margin-top: -30px;
  pointer-events: none;
}

.ways .put-aside {
  pointer-events: auto;
}

.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 6px;
  padding: 0 12px 7px;
}

.ways .el-button {
  margin: 0;
}

.way {
  max-width: 100%;
}

.way :deep(> span) {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
}

.put-aside {
  margin-left: auto !important;
  color: var(--ink-soft);
}

.asking {
  display: grid;
  gap: 8px;
}

.asking .el-radio-group {
  display: grid;
  justify-items: start;
}

.asking .el-button {
  justify-self: end;
}

.error .sign-icon {
  color: var(--wrong);
}

.warning .sign-icon {
  color: var(--wait);
}
</style>
