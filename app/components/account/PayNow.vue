<script setup lang="ts">
import { sayDue, sayMoney } from '@ridgeway/words'
import { startPayment } from '#shared/contract/acts/student'
import { toProblem, type Problem } from '~/composables/useApi'

/** The payment itself: the next part, all of it, or another amount; the card is given at the payment desk. */
const { due, balance } = defineProps<{ due: { cents: number, by: string, overdue: boolean, voidAfter: string | null }, balance: number }>()
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const problem = ref<Problem | null>(null)
const busy = ref(false)
const other = ref('')
/** The press whose answer was lost is sent again as the same payment. */
let pending: { cents: number, key: string } | null = null
const typed = computed(() => {
  const amount = /^\d{1,6}([.,]\d{1,2})?$/.test(other.value.trim()) ? Math.round(Number(other.value.trim().replace(',', '.')) * 100) : 0
  return amount
})
async function pay(cents: number) {
  busy.value = true
  problem.value = null
  pending = pending?.cents === cents ? pending : { cents, key: crypto.randomUUID() }
  try {
    const { payment } = await student.send(startPayment, { term: workingTerm.code, key: pending.key, cents })
    pending = null
    await navigateTo(`/student/${student.state!.id}/desk?payment=${payment}`)
  }
  catch (error) {
    problem.value = toProblem(error)
    if (problem.value.status > 0 && problem.value.status < 500) pending = null
  }
  busy.value = false
}
</script>

<template>
  <section class="card pay" aria-labelledby="pay">
    <h2 id="pay">{{ sayMoney(due.cents) }} is next to pay</h2>
    <p :class="{ blocking: due.overdue }">{{ sayDue(due) }}</p>
    <FailedBox v-if="problem" :problem="problem" />
    <div class="row">
      <ActButton weight="full" :busy="busy" @click="pay(due.cents)">Pay {{ sayMoney(due.cents) }}</ActButton>
      <ActButton v-if="balance > due.cents" :busy="busy" @click="pay(balance)">Pay all of it: {{ sayMoney(balance) }}</ActButton>
    </div>
    <form class="row" @submit.prevent="pay(typed)">
      <v-text-field v-model="other" label="Another amount" inputmode="decimal" placeholder="100.00" />
      <ActButton type="submit" :busy="busy" :off="typed < 100 && 'Enter an amount of 1.00 or more'">Pay this</ActButton>
    </form>
  </section>
</template>

<style scoped>
.pay { padding: 14px 18px; }
p { margin: 2px 0 8px; }
.row { display: flex; flex-wrap: wrap; gap: 10px; align-items: center; margin-top: 8px; max-width: 520px; }
</style>
