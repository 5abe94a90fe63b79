<script setup lang="ts">
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const { instant } = useNow()
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
        <StepList />
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
