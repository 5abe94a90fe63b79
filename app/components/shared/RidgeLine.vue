<script setup lang="ts">
/** The line across the top with its waypoints, the current one raised; each with its live state under its name and a key of its number. */
const { waypoints } = defineProps<{ waypoints: readonly { name: string, to: string, state: string, current: boolean }[] }>()
/** The line of the hills, in a box of 800 by 40, and how high each waypoint stands on it. */
const SKYLINE = 'M0 38 14 26 52 14 90 24 130 16 174 11 216 20 270 13 334 6 372 2 430 12 486 9 508 12 530 14 572 8 '
  + '624 20 668 18 724 15 762 22 800 34'
const HEIGHTS = [26, 11, 6, 12, 18]
useKey('waypoint', (event) => {
  const waypoint = waypoints[Number(event.key) - 1]
  if (waypoint) navigateTo(waypoint.to)
})
</script>

<template>
  <nav class="ridge" aria-label="Waypoints">
    <svg class="line" viewBox="0 0 800 40" preserveAspectRatio="none" aria-hidden="true">
      <path
        :d="`${SKYLINE}V40H0z`"
        class="fill"
      />
      <path
        :d="SKYLINE"
        class="edge"
        vector-effect="non-scaling-stroke"
      />
    </svg>
    <NuxtLink
      v-for="(point, i) in waypoints"
      :key="point.name"
      :to="point.to"
      class="waypoint"
      :class="{ current: point.current }"
      :aria-current="point.current ? 'page' : undefined"
    >
      <span class="name">{{ point.name }}</span>
      <span class="state">{{ point.state }}</span>
      <span class="dot" :style="{ top: `${51 + HEIGHTS[i]!}px` }" aria-hidden="true" />
    </NuxtLink>
  </nav>
</template>

<style scoped>
.ridge { position: relative; display: grid; grid-template-columns: repeat(5, 1fr); width: 100%; max-width: 800px; height: 91px; }
.line { position: absolute; left: 0; bottom: 0; width: 100%; height: 40px; }
.line .fill { fill: var(--act-tint); }
.line .edge { fill: none; stroke: color-mix(in srgb, var(--act) 50%, var(--surface)); stroke-width: 1.5; }
.waypoint { position: relative; padding: 12px 6px 0 10px; text-decoration: none; color: var(--ink); min-width: 0; }
.name { display: block; font-weight: 700; font-size: 15px; }
.state { display: block; font-size: 12.5px; color: var(--second); white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.waypoint:hover .name { color: var(--act); }
.current .name { color: var(--act); }
.dot {
  position: absolute; left: 9px; width: 10px; height: 10px; margin-top: -5px; border-radius: 50%;
  border: 2px solid color-mix(in srgb, var(--act) 70%, var(--surface)); background: var(--surface);
}
.current .dot {
  background: var(--act); border-color: var(--act); border-radius: 1px; transform: rotate(45deg) translateY(-2px);
  width: 11px; height: 11px;
}
@media (min-width: 961px) and (max-width: 1090px) {
  .waypoint { padding: 12px 0 0 8px; }
  .name { font-size: 13px; }
  .state { font-size: 11.5px; }
}
@media (max-width: 960px) {
  .ridge { max-width: none; }
}
@media (max-width: 700px) {
  .ridge { height: 66px; grid-template-columns: .8fr 1.45fr 1fr 1fr 1.1fr; }
  .line { height: 18px; }
  .dot { display: none; }
  .waypoint { padding: 4px 2px 0 4px; }
  .name { font-size: 12px; }
  .state { font-size: 10.5px; white-space: normal; line-height: 1.15; }
  .current { box-shadow: inset 0 -3px 0 var(--act); }
}
</style>
