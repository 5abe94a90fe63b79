<script setup lang="ts">
import { creditPrice, priceOf, total } from '@ridgeway/core/money'
import { sayDue, sayMoney } from '@ridgeway/words'

/** What the term costs: what stands on the account, what the line-up would add, and what is to pay by when. */
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { willRegister, bundleOf } = useRunSheet()
const adds = computed(() => willRegister.value.reduce((sum, row) => {
  const course = catalog.courses.get(row.course)
  const bundle = bundleOf(row.course)
  return sum + (course && bundle ? total(priceOf(course, bundle.sections, row.credits, student.state!.residence, catalog.policy)) : 0)
}, 0))
const account = computed(() => student.account)
const band = computed(() => catalog.policy.bands.find(one => one.code === student.state!.residence) ?? catalog.policy.bands[0])
const lines = computed(() => [
  { words: 'Charged so far', cents: account.value?.charged ?? 0 },
  ...adds.value > 0 ? [{ words: 'This line-up adds', cents: adds.value }] : [],
  ...account.value?.paid ? [{ words: 'Paid', cents: -account.value.paid }] : [],
])
const open = computed(() => (account.value?.balance ?? 0) + adds.value)
</script>

<template>
  <section class="card cost" aria-labelledby="cost">
    <h2 id="cost">Cost of {{ workingTerm.term?.name }}</h2>
    <dl>
      <template v-for="line in lines" :key="line.words">
        <dt>{{ line.words }}</dt>
        <dd>{{ line.cents < 0 ? '−' : '' }}{{ sayMoney(Math.abs(line.cents)) }}</dd>
      </template>
    </dl>
    <dl class="total">
      <dt>{{ open < 0 ? 'The college owes you' : adds > 0 ? 'To pay then' : 'To pay' }}</dt>
      <dd>{{ sayMoney(Math.abs(open)) }}</dd>
    </dl>
    <p v-if="student.feesDue" class="small" :class="student.feesDue.overdue ? 'blocking' : 'second'">{{ sayDue(student.feesDue) }}</p>
    <p v-else-if="open > 0" class="second small">Due by {{ workingTerm.term && longDate(workingTerm.term.feesDue) }}.</p>
    <p class="second small">
      {{ band?.name }}: {{ sayMoney(creditPrice(catalog.policy, student.state!.residence)) }} a credit, with the fees of courses, sections
      and sites.
    </p>
    <WordLink :to="`/student/${student.state!.id}/account`">Account and payment</WordLink>
  </section>
</template>

<style scoped>
.cost { padding: 12px 16px; }
dl { display: grid; grid-template-columns: 1fr auto; gap: 2px 12px; margin: 6px 0; }
dd { margin: 0; text-align: right; }
p { margin: 2px 0; }
.total { border-top: 1px solid var(--line); padding-top: 6px; font-weight: 700; }
</style>
