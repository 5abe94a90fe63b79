<script setup lang="ts">
import { sayOfficeNeed } from '@ridgeway/words'

/** What needs the office, most pressing first, each with the place where it is done; beside it how registration goes. */
const staff = useStaffStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
// Before there is a calendar, there is one thing to do here.
watch(() => catalog.ready && catalog.terms.length === 0, isEmpty => isEmpty && navigateTo('/office/college', { replace: true }),
  { immediate: true })
const BLOCKING = ['registration closed', 'import refused', 'no opening']
const needs = computed(() => (staff.needs ?? []).map(need => ({ ...sayOfficeNeed(need, session.zone), code: need.code,
  blocking: BLOCKING.includes(need.code) })))
const about = computed(() => [workingTerm.term?.name, staff.needs && `${count(staff.needs.length, 'thing')} to look at`]
  .filter(Boolean).join(' · '))
const PLACES = { terms: 'Terms', sections: 'Sections', demand: 'Demand', people: 'People', college: 'College' }
</script>

<template>
  <div class="page">
    <PageHead title="Office" :about="about">
      <WordLink to="/office/server">This server</WordLink>
      <WordLink to="/office/ledger">What happened</WordLink>
    </PageHead>
    <FailedBox v-if="staff.failed" :problem="staff.failed" retry @retry="staff.loadToday()" />
    <div class="two">
      <section class="card needs" aria-label="What needs the office">
        <h2>What needs you</h2>
        <p v-if="staff.needs && !needs.length" class="second">
          Nothing for this term. Choose another working term above, or look ahead under Terms.
        </p>
        <ol v-if="needs.length">
          <li v-for="need in needs" :key="need.title" :class="{ blocking: need.blocking }">
            <NuxtLink :to="`/office/${need.place}`" class="need">
              <b>{{ need.title }}</b>
              <span class="second">{{ need.words }}</span>
              <span class="small place">{{ PLACES[need.place] }}</span>
            </NuxtLink>
          </li>
        </ol>
        <GreyShapes v-else-if="!staff.needs" />
      </section>
      <div class="right">
        <PaceCard />
        <RegistrationSwitch />
      </div>
    </div>
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr); gap: 12px; align-items: start; }
.right { display: grid; gap: 12px; }
.needs { padding: 10px 16px; }
ol { list-style: none; padding: 0; margin: 6px 0 0; }
li { border-top: 1px solid var(--line-soft); border-left: 3px solid var(--act); }
li.blocking { border-left-color: var(--block); }
.need {
  display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 1px 12px; padding: 8px 10px; color: inherit; text-decoration: none;
}
.need b { color: var(--ink); }
.need .second { grid-column: 1; }
.place { grid-area: 1 / 2; color: var(--act); font-weight: 600; }
.need:hover { background: var(--act-tint); }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
