<script setup lang="ts">
import { readOfficePeople } from '#shared/contract/views/office'

/** People: requests to answer, holds, programs to confirm, exceptions in force; finding somebody, and inviting them. */
const workingTerm = useWorkingTermStore()
const { data, problem, reload } = useView(readOfficePeople, () => workingTerm.code ? { term: workingTerm.code } : {})
useIntervalFn(() => document.visibilityState === 'visible' && void reload(), 20_000)
const erasing = ref(false)
const about = computed(() => data.value
  ? [count(data.value.holds.length, 'hold'), `${data.value.unconfirmed.length} without a confirmed program`,
      `${count(data.value.exceptions.length, 'exception')} in force`].join(' · ')
  : '')
</script>

<template>
  <div class="page">
    <PageHead title="People" :about="about">
      <WordLink to="/office/progress">Progress of everybody</WordLink>
      <WordLink @click="erasing = true">Erase a person …</WordLink>
    </PageHead>
    <EraseDialog v-model="erasing" @erased="reload" />
    <FailedBox v-if="problem" :problem="problem" retry @retry="reload" />
    <GreyShapes v-if="!data && !problem" />
    <div v-if="data" class="two">
      <div class="column">
        <RequestList :asked="data.asked" />
        <HoldList :holds="data.holds" @changed="reload" />
        <ConfirmList :students="data.unconfirmed" @changed="reload" />
        <OwingList :students="data.unpaid" :term="workingTerm.term" />
      </div>
      <div class="column">
        <WithoutAdvisor v-if="data.advisorless.length" :students="data.advisorless" />
        <WhoAdvises />
        <ExceptionList :exceptions="data.exceptions" />
        <InvitePerson />
      </div>
    </div>
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); gap: 12px; align-items: start; }
.column { display: grid; gap: 12px; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
