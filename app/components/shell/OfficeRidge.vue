<script setup lang="ts">
import { shortTermName } from '@ridgeway/words'

/** The office's five waypoints with their live state. */
const staff = useStaffStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const route = useRoute()
const { instant } = useNow()
watch(() => workingTerm.code, code => code && void staff.loadToday(), { immediate: true })
useIntervalFn(() => document.visibilityState === 'visible' && workingTerm.code && void staff.loadToday(), 30_000)
const holds = computed(() => staff.needs?.find(need => need.code === 'holds'))
const waiting = computed(() => staff.needs?.find(need => need.code === 'waiting'))
const next = computed(() => staff.openings.filter(one => one.from > instant.value).sort((a, b) => a.from < b.from ? -1 : 1)[0])
/** Pages that are reached from a waypoint and stand under it. */
const BENEATH: Record<string, readonly string[]> = { '/office': ['/office/ledger', '/office/server'],
  '/office/sections': ['/office/demand'], '/office/people': ['/office/progress'],
  '/office/college': ['/office/program', '/office/settings'] }
const waypoints = computed(() => {
  const term = workingTerm.term
  const states: [string, string, string][] = [
    ['Today', '/office', staff.needs ? `${staff.needs.length} to look at` : ''],
    ['Terms', '/office/terms', next.value
      ? `opens ${toLocal(next.value.from, session.zone).toFormat('ccc d LLL')}`
      : staff.needs ? 'no opening to come' : ''],
    ['Sections', '/office/sections', waiting.value ? `${waiting.value.students} waiting` : term ? shortTermName(term) : ''],
    ['People', '/office/people', holds.value ? count(holds.value.count, 'hold') : staff.needs ? 'no holds' : ''],
    ['College', '/office/college', catalog.ready ? count(catalog.programs.size, 'program') : ''],
  ]
  return states.map(([name, to, state]) => ({ name, to, state, current: [to, ...BENEATH[to] ?? []].includes(route.path) }))
})
</script>

<template>
  <RidgeLine :waypoints="waypoints" />
</template>
