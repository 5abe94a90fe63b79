<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'

/** What the term costs with the line-up as it is, and by when it must be paid. */
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { registered, willRegister } = useRunSheet()
const cost = computed(() => {
  const list = [...registered.value, ...willRegister.value].map(({ course, credits }) => ({ course, credits }))
  const credits = list.reduce((sum, row) => sum + row.credits, 0)
  const extra = list.reduce((sum, row) => sum + (catalog.courses.get(row.course)?.fee ?? 0), 0)
  return { credits, extra, tuition: credits * catalog.creditPrice / 100 }
})
</script>

<template>
  <section class="card cost">
    <h2>Cost {{ willRegister.length ? 'with this line-up' : 'of this term' }}</h2>
    <dl>
      <dt>{{ formatCredits(cost.credits) }} cr × {{ money(catalog.creditPrice) }}</dt>
      <dd>{{ money(cost.tuition) }}</dd>
      <dt>Course fees</dt>
      <dd>{{ money(cost.extra) }}</dd>
    </dl>
    <dl class="total">
      <dt>Due by {{ workingTerm.term && longDate(workingTerm.term.feesDue) }}</dt>
      <dd>{{ money(cost.tuition + cost.extra) }}</dd>
    </dl>
    <p class="second small">Unpaid after that date, the registration is voided.</p>
  </section>
</template>

<style scoped>
.cost { padding: 12px 16px; }
dl { display: grid; grid-template-columns: 1fr auto; gap: 2px 12px; margin: 6px 0; }
dd { margin: 0; text-align: right; }
p { margin: 2px 0; }
.total { border-top: 1px solid var(--line); padding-top: 6px; font-weight: 700; }
</style>
