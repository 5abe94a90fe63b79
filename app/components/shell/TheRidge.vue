<script setup lang="ts">
import { formatCredits, shortTermName } from '@ridgeway/words'

/** The line of the hills, in a box of 800 by 40. */
const SKYLINE = 'M0 38 14 26 52 14 90 24 130 16 174 11 216 20 270 13 334 6 372 2 430 12 486 9 508 12 530 14 572 8 '
  + '624 20 668 18 724 15 762 22 800 34'

/** The line across the top with the five waypoints and the live state under each. */
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { local, instant } = useNow()
const session = useSessionStore()
const route = useRoute()

const planned = computed(() => student.entries.filter(entry => entry.term === workingTerm.code).length)
const registered = computed(() =>
  new Set(student.state?.registered.filter(row => row.term === workingTerm.code).map(row => row.course)).size,
)
const chosen = computed(() => student.state?.lineUp.length ?? 0)

const requirementsState = computed(() => {
  const reports = student.standing?.reports ?? []
  const first = reports[0]
  return first ? `${formatCredits(first.met)}/${formatCredits(first.totalCredits)} cr met` : ''
})
const planState = computed(() => {
  const standing = student.standing
  if (!standing) return ''
  const finish = standing.finish && catalog.term(standing.finish)
  return finish ? `finish ${shortTermName(finish)}` : `${formatCredits(standing.unplaced)} cr to place`
})
const registerState = computed(() => {
  const opening = student.state?.opening
  if (!opening) return 'no opening set'
  if (opening.from <= instant.value) return registered.value > 0 ? `${registered.value} registered` : 'open'
  const from = toLocal(opening.from, session.zone)
  return from.toISODate() === local.value.toISODate() ? `opens ${from.toFormat('HH:mm')}` : `opens ${from.toFormat('ccc d LLL')}`
})

const waypoints = computed(() => {
  const base = `/student/${student.state?.id}`
  const total
    = new Set([...student.entries.filter(e => e.term === workingTerm.code).map(e => e.course),
      ...student.state?.registered.filter(r => r.term === workingTerm.code).map(r => r.course) ?? []]).size
  return [
    { name: 'Now', to: `${base}/now`, state: `${student.steps.length} to do`, y: 26 },
    { name: 'Requirements', to: `${base}/requirements`, state: requirementsState.value, y: 11 },
    { name: 'Plan', to: `${base}/plan`, state: planState.value, y: 6 },
    { name: 'Week', to: `${base}/week`,
      state: planned.value + registered.value === 0 ? 'nothing planned' : `${chosen.value + registered.value} of ${total} picked`, y: 12 },
    { name: 'Register', to: `${base}/register`, state: registerState.value, y: 18 },
  ]
})
const isCurrent = (to: string) => route.path.startsWith(to)

useKey('waypoint', (event) => {
  const waypoint = waypoints.value[Number(event.key) - 1]
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
      v-for="point in waypoints"
      :key="point.name"
      :to="point.to"
      class="waypoint"
      :class="{ current: isCurrent(point.to) }"
      :aria-current="isCurrent(point.to) ? 'page' : undefined"
    >
      <span class="name">{{ point.name }}</span>
      <span class="state">{{ point.state }}</span>
      <span class="dot" :style="{ top: `${51 + point.y}px` }" aria-hidden="true" />
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
