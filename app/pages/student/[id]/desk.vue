<script setup lang="ts">
import { giveCard } from '#shared/contract/acts/student'
import { readAccountView } from '#shared/contract/views/student'
import { sayMoney } from '@ridgeway/words'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** The stand-in for the payment desk: another house, that takes a card and answers by itself. */
const student = useStudentStore()
const session = useSessionStore()
const route = useRoute()
const payment = computed(() => String(route.query.payment ?? ''))
const workingTerm = useWorkingTermStore()
const cents = ref<number | null>(null)
const card = ref('4000 0000 0000 0001')
const problem = ref<Problem | null>(null)
const busy = ref(false)
const CARDS = [['0001', 'accepted'], ['0002', 'refused'], ['0003', 'accepted, but slowly'], ['0004',
  'accepted, and answered twice']] as const
// The amount is what was begun, never what an address says.
onMounted(async () => {
  try {
    const { payments } = await look(readAccountView, { term: workingTerm.code }, { id: student.state!.id })
    const begun = payments.find(one => one.id === payment.value && one.state === 'started')
    if (begun) cents.value = begun.cents
    else
      problem.value = { code: 'no-payment', status: 0, title: 'There is no such payment to make.',
        detail: 'Go back to the account: it may have been made already.' }
  }
  catch (error) {
    problem.value = toProblem(error)
  }
})
const off = computed(() => !session.demo ? 'There is no desk here' : cents.value === null ? 'There is nothing to pay here' : '')
const account = computed(() => `/student/${student.state!.id}/account`)
async function give() {
  busy.value = true
  problem.value = await student.act(giveCard, { payment: payment.value, card: card.value })
  busy.value = false
  if (!problem.value) await navigateTo(account.value)
}
</script>

<template>
  <div class="page" style="max-width: 620px">
    <PageHead title="Payment desk" about="a stand-in of the demonstration" />
    <section class="card desk">
      <p v-if="cents !== null">To pay: <b>{{ sayMoney(cents) }}</b></p>
      <FailedBox v-if="problem" :problem="problem" />
      <form @submit.prevent="give">
        <v-text-field v-model="card" label="Card number" inputmode="numeric" autocomplete="off" />
        <ActButton weight="full" type="submit" :busy="busy" :off="off">Give the card</ActButton>
      </form>
      <p class="second small">No real card is wanted here. What comes of it hangs on the last four digits:</p>
      <ul class="small">
        <li v-for="[digits, words] in CARDS" :key="digits">
          <WordLink class="small" @click="card = `4000 0000 0000 ${digits}`">…{{ digits }}</WordLink> {{ words }}
        </li>
      </ul>
      <p><NuxtLink :to="account">Back to the account, without paying</NuxtLink></p>
    </section>
  </div>
</template>

<style scoped>
.desk { padding: 18px 22px; }
form { display: flex; gap: 10px; align-items: center; margin: 10px 0; }
p { margin: 4px 0; }
ul { margin: 4px 0 10px; padding-left: 18px; }
</style>
