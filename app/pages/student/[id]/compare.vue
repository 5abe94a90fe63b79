<script setup lang="ts">
import { comparePlans, type Plan, readStanding } from '@ridgeway/core/planning'

/** Two plans side by side: what stands where, credits, finish, and what each leaves open. */
const student = useStudentStore()
const plans = usePlansStore()
const { today } = useNow()
const list = computed(() => student.state?.plans ?? [])
const first = student.state!.plan.id
const picked = ref<[number, number]>([first, list.value.find(plan => plan.id !== first)?.id ?? first])
const read = shallowRef<Record<number, Plan>>({})
const failed = ref(false)
watch([picked, () => student.plan, () => list.value.map(plan => plan.version).join()], async () => {
  failed.value = false
  const both = await Promise.all(picked.value.map(id => plans.read(id)))
  if (both.some(plan => plan === null)) failed.value = true
  else read.value = Object.fromEntries(picked.value.map((id, i) => [id, both[i]!]))
}, { immediate: true, deep: true })
const comparison = computed(() => {
  const two = picked.value.map(id => read.value[id])
  if (!student.state || two.some(plan => plan === undefined)) return null
  const both = two as [Plan, Plan]
  const standingOf = (plan: Plan) =>
    readStanding({ ...student.state!.file, entries: plan.entries, placeholders: plan.placeholders, wishes: plan.wishes }, student.rules,
      today.value)
  return comparePlans(both, [standingOf(both[0]), standingOf(both[1])])
})
</script>

<template>
  <div class="page">
    <PageHead title="Compare plans"><WordLink :to="`/student/${student.state!.id}/plan`">Back to the plan</WordLink></PageHead>
    <EmptyState v-if="list.length < 2">
      There is only one plan yet. Copy it from the plan's menu, change the copy, and compare the two here.
    </EmptyState>
    <template v-else>
      <NoticeLine v-if="failed" blocking>
        One of the plans could not be read. It may have been deleted; choose another, or try again.
      </NoticeLine>
      <CompareTable v-if="comparison" v-model:picked="picked" :comparison="comparison" :list="list" />
      <p class="second small">Rows with a mark at the left differ.</p>
    </template>
  </div>
</template>
