<script setup lang="ts">
/** What the signs of the road mean. */
const SIGNS: [string, string][] = [
  ["bar", "a section, to scale; further right and paler, deeper"],
  ["hatch", "jump links land badly here"],
  ["beyond", "too near the end of the page to come to the top of the window"],
  ["dots", "a long run of text without a heading"],
  ["number", "windows of the reader, from the top"],
  ["hash", "has an identifier"],
  ["arc", "a jump link of the selected section, or to it"],
  ["back", "a back-to-top link"],
  ["cut", "a part begins here; drag it, or move it by the arrow keys"],
  ["frame", "the reader's window; drag it to scroll"],
];
</script>

<template>
  <dl class="legend small">
    <div v-for="[sign, words] in SIGNS" :key="sign">
      <dt>
        <svg width="22" height="18" aria-hidden="true" :class="sign">
          <rect v-if="sign === 'bar'" x="8" y="1" width="6" height="16" rx="1.500" />
          <rect v-else-if="sign === 'hatch'" x="7" y="1" width="8" height="16" fill="url(#hatch)" />
          <rect v-else-if="sign === 'beyond'" x="1" y="1" width="20" height="16" fill="url(#beyond)" />
          <path v-else-if="sign === 'dots'" d="M11 1V17" />
          <text v-else-if="sign === 'number'" x="7" y="13">3</text>
          <text v-else-if="sign === 'hash'" x="7" y="13">#</text>
          <path v-else-if="sign === 'arc'" d="M5 2C20 2 20 16 5 16" />
          <path v-else-if="sign === 'back'" d="M11 15V3m-4 4l4-4l4 4" />
          <path v-else-if="sign === 'cut'" d="M1 9H21" />
          <rect v-else x="2" y="3" width="18" height="12" rx="3" />
        </svg>
      </dt>
      <dd>{{ words }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.legend {
  margin: 0;
}

.legend div {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 3px 0;
}

dd {
  margin: 0;
}

svg {
  display: block;
  fill: none;
  stroke: none;
}

.bar rect {
  fill: var(--road-2);
}

.hatch rect {
  fill: url("#hatch");
}

.beyond rect {
  fill: url("#beyond");
  stroke: var(--line);
}

.dots path {
  stroke: var(--wait);
  stroke-width: 2;
  stroke-dasharray: 2 3;
}

.number text {
  fill: var(--ink-soft);
  font: 11px var(--ui);
}

.hash text {
  fill: var(--plate);
  font: 600 12px var(--ui);
}

.arc path,
.back path {
  stroke: var(--plate);
  stroke-width: 1.5;
}

.cut path {
  stroke: var(--wait);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}

.frame rect {
  stroke: var(--ink);
}
</style>
