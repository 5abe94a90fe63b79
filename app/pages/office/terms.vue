<script setup lang="ts">
/** The calendar: what each term's dates are and who is let in when; changed with its effect shown before. */
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const staff = useStaffStore()
const { today } = useNow()
const term = computed(() => workingTerm.term)
const others = computed(() => catalog.terms.filter(one => one.end >= today.value && one.code !== workingTerm.code))
const about = computed(() => term.value ? `${term.value.name} · ${longDate(term.value.start)} to ${longDate(term.value.end)}` : '')
const isAdding = ref(false)
async function added(code: string) {
  await changed()
  workingTerm.set(code)
}
async function changed() {
  await Promise.all([catalog.load(true), staff.loadToday()])
}
</script>

<template>
  <div class="page">
    <PageHead title="Terms" :about="about" />
    <div v-if="term" class="two">
      <OpeningList :key="term.code" :term="term.code" @changed="changed" />
      <div class="column">
        <TermDates :key="term.code" :term="term" @changed="changed" />
        <RegistrationSwitch />
        <section class="card others" aria-label="Other terms">
          <h2>Other terms</h2>
          <p v-for="one in others" :key="one.code">
            <WordLink @click="workingTerm.set(one.code)">{{ one.name }}</WordLink>
            <span class="second"> · {{ longDate(one.start) }} to {{ longDate(one.end) }} · {{
              one.scheduled ? 'sections published' : 'no sections yet'
            }}</span>
          </p>
          <p><ActButton @click="isAdding = true">Another term …</ActButton></p>
          <p class="second small">
            Many at once come in with terms.csv and sessions.csv under <WordLink to="/office/college">College</WordLink>.
          </p>
        </section>
      </div>
    </div>
    <NewTerm v-model="isAdding" @added="added" />
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr); gap: 12px; align-items: start; }
.column { display: grid; gap: 12px; }
.others { padding: 10px 16px; }
p { margin: 3px 0; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
