<script setup lang="ts">
import { mendedByBundle } from '@ridgeway/core/next'

const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const week = useWeekStore()
const { instant } = useNow()
/** What another bundle mends is offered here too: the week is read where there is such a thing. */
const needsWeek = computed(() => student.state !== null && (student.state.moved.length > 0
  || student.state.refused.some(one => mendedByBundle([one.finding]))))
watch([() => student.state?.id, () => workingTerm.code, needsWeek], () => {
  if (needsWeek.value) void week.ensure()
}, { immediate: true })
const opensIn = computed(() => student.state?.opening ? timeLeft(instant.value, student.state.opening.from) : '')
const inTheWay = computed(() => student.steps.filter(step => step.blocking).length)
const about = computed(() =>
  [workingTerm.term?.name, inTheWay.value && `${count(inTheWay.value, 'thing stands', 'things stand')} in the way`].filter(Boolean)
    .join(' · '),
)
</script>

<template>
  <div class="page">
    <PageHead title="Next on your path" :about="about" />
    <div class="columns">
      <div>
        <template v-if="needsWeek && week.courses">
          <PickChanges />
          <SmallestChange />
        </template>
        <StepList />
        <AskedList />
        <SharedNotes />
        <CreditsCard />
      </div>
      <aside>
        <GateList :gates="student.gates" :opens-in="opensIn" />
        <StandingCard />
        <KeyDates />
        <section v-if="student.state?.advisor" class="card advisor">
          <h2>Your advisor</h2>
          <p>
            {{ student.state.advisor.name }}<br /><a :href="`mailto:${student.state.advisor.email}`">{{ student.state.advisor.email }}</a>
          </p>
          <p v-if="student.state.deputy" class="second">{{ student.state.deputy }} stands in now.</p>
          <p>
            <WordLink :to="`/student/${student.state.id}/meetings`">{{
              student.state.meetings.length ? count(student.state.meetings.length, 'meeting') + ' booked' : 'Book a meeting'
            }}</WordLink>
          </p>
        </section>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: minmax(0, 1fr) 330px; gap: 16px; }
aside { display: grid; gap: 12px; align-content: start; }
.advisor { padding: 12px 16px; }
.advisor h2 { margin-bottom: 6px; }
.advisor p { margin: 0; }
@media (max-width: 800px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
