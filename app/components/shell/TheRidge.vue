<script setup lang="ts">
import { formatCredits, shortTermName } from '@ridgeway/words'

/** The line across the top with the five waypoints and the live state under each. */
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { local, instant } = useNow()
const session = useSessionStore()
const route = useRoute()
const NAMES = { now: 'Now', requirements: 'Requirements', plan: 'Plan', week: 'Week', register: 'Register' }

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
  const picked = `${chosen.value + registered.value} of ${total} picked`
  const states = {
    now: `${student.steps.length} to do`,
    requirements: requirementsState.value,
    plan: planState.value,
    week: planned.value + registered.value === 0 ? 'nothing planned' : picked,
    register: registerState.value,
  }
  return Object.entries(states).map(([place, state]) => {
    const to = `${base}/${place}`
    return { name: NAMES[place as keyof typeof states], to, state, current: route.path === to || route.path.startsWith(`${to}/`) }
  })
})
</script>

<template>
  <RidgeLine :waypoints="waypoints" />
</template>
