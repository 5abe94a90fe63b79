<script setup lang="ts">
import { askPayback, choosePlan } from '#shared/contract/acts/student'
import { readAccountView } from '#shared/contract/views/student'
import { refundSchedule, spanOf } from '@ridgeway/core/money'
import { PAYMENT_WORDS, sayDate, sayDue, sayMoney } from '@ridgeway/words'

/** The account of a term: what is to pay now, by which plan, everything that happened on it, and what comes back until when. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const catalog = useCatalogStore()
const session = useSessionStore()
const { data: view, problem, reload: load } = useView(readAccountView, () => ({ term: workingTerm.code }),
  { of: () => student.state?.id, again: () => student.state?.version })
const account = computed(() => student.account)
const plans = computed(() => catalog.policy.plans.map(plan => ({ value: plan.code, title: plan.name })))
const schedule = computed(() => workingTerm.term ? refundSchedule(spanOf(workingTerm.term, 'full'), catalog.policy) : [])
const choose = async (plan: string) => {
  problem.value = await student.act(choosePlan, { term: workingTerm.code, plan })
}
let key = crypto.randomUUID()
async function payBack() {
  problem.value = await student.act(askPayback, { term: workingTerm.code, key })
  if (!problem.value) key = crypto.randomUUID()
}
const about = computed(() => account.value
  ? account.value.balance > 0
    ? `${sayMoney(account.value.balance)} to pay in all`
    : account.value.balance < 0 ? `the college owes you ${sayMoney(-account.value.balance)}` : 'nothing to pay'
  : '')
</script>

<template>
  <div class="page">
    <PageHead :title="`Account for ${workingTerm.term?.name}`" :about="about">
      <template #beside><WordLink class="small" :to="`/student/${student.state!.id}/register`">Back to Register</WordLink></template>
    </PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="load" />
    <div class="columns">
      <div class="stack">
        <PayNow v-if="student.feesDue && student.isOwn" :due="student.feesDue" :balance="account!.balance" />
        <section v-else-if="student.feesDue" class="card">
          <h2>{{ sayMoney(student.feesDue.cents) }} is next to pay</h2>
          <p>{{ sayDue(student.feesDue) }}</p>
        </section>
        <section v-if="account && account.balance < 0" class="card">
          <h2>The college owes you {{ sayMoney(-account.balance) }}</h2>
          <p>It goes back the way that it came, or stays here for what you register next.</p>
          <ActButton v-if="student.isOwn" @click="payBack">Send it back</ActButton>
        </section>
        <section v-if="view?.payments.length" class="card" aria-label="Payments">
          <h2>Payments</h2>
          <ul>
            <li v-for="one in view.payments" :key="one.id">
              {{ sayMoney(one.cents) }} · {{ toLocal(one.started, session.zone).toFormat('d LLL yyyy, HH:mm') }} ·
              <b>{{ PAYMENT_WORDS[one.state] }}</b>
              <template v-if="one.state === 'accepted'"> · receipt {{ one.id.slice(0, 8).toUpperCase() }}</template>
              <WordLink
                v-if="one.state === 'started' && student.isOwn"
                class="small"
                :to="`/student/${student.state!.id}/desk?payment=${one.id}`"
              >
                go on
              </WordLink>
            </li>
          </ul>
        </section>
        <AccountLines :entries="view?.entries ?? null" />
      </div>
      <aside class="stack">
        <PartList v-if="account" :account="account" />
        <section class="card">
          <h2 class="spaced">How it is paid</h2>
          <v-select
            :model-value="student.paysBy?.code"
            :items="plans"
            label="Payment plan"
            :readonly="!student.isOwn"
            @update:model-value="choose"
          />
          <p class="small second">It can be chosen until {{ workingTerm.term && sayDate(workingTerm.term.feesDue) }}.</p>
        </section>
        <section class="card">
          <h2>When a course is given up</h2>
          <ul>
            <li v-for="step in schedule" :key="step.until">until {{ sayDate(step.until) }}: {{ step.percent }} % of its tuition</li>
            <li>after that nothing</li>
          </ul>
          <p class="small second">Fees come back only while all of the tuition does. Halves of the term have days of their own.</p>
        </section>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: minmax(0, 1fr) 330px; gap: 16px; }
.stack { display: grid; gap: 12px; align-content: start; }
.card { padding: 12px 16px; }
.spaced { margin-bottom: 10px; }
p { margin: 2px 0 6px; }
ul { margin: 4px 0; padding-left: 18px; }
@media (max-width: 800px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
