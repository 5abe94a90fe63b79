<script setup lang="ts">
import { comparePlans, type Plan, readStanding } from '@ridgeway/core/planning'
import { formatCredits } from '@ridgeway/words'

/** Two plans side by side: what stands where, credits, finish, and what each leaves open. */
const student = useStudentStore()
const catalog = useCatalogStore()
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
const nameOf = (id: number) => list.value.find(plan => plan.id === id)?.name ?? 'a plan'
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'not all covered'
const differ = (two: readonly [unknown, unknown]) => two[0] !== two[1]
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Compare plans</h1>
      <span class="spacer" />
      <WordLink :to="`/student/${student.state!.id}/plan`">Back to the plan</WordLink>
    </div>
    <EmptyState v-if="list.length < 2">
      There is only one plan yet. Copy it from the plan's menu, change the copy, and compare the two here.
    </EmptyState>
    <template v-else>
      <NoticeLine v-if="failed" blocking>
        One of the plans could not be read. It may have been deleted; choose another, or try again.
      </NoticeLine>
      <DataTable v-if="comparison" class="card">
        <thead>
          <tr>
            <th class="what"><span class="visually-hidden">What</span></th>
            <th v-for="which in ([0, 1] as const)" :key="which">
              <v-select
                v-model="picked[which]"
                :items="list.map(plan => ({ value: plan.id, title: plan.current ? `${plan.name} (current)` : plan.name }))"
                :label="which === 0 ? 'Plan' : 'against'"
                density="compact"
                hide-details
                variant="outlined"
              />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr :class="{ differs: differ(comparison.finish) }">
            <th>Finish</th>
            <td v-for="which in ([0, 1] as const)" :key="which" class="big">{{ termName(comparison.finish[which]) }}</td>
          </tr>
          <tr :class="{ differs: differ(comparison.open) }">
            <th>Not placed</th>
            <td v-for="which in ([0, 1] as const)" :key="which">{{ formatCredits(comparison.open[which]) }} cr</td>
          </tr>
          <tr :class="{ differs: differ(comparison.problems) }">
            <th>Blockers</th>
            <td v-for="which in ([0, 1] as const)" :key="which">{{ comparison.problems[which] }}</td>
          </tr>
        </tbody>
        <tbody>
          <tr class="group">
            <th colspan="3">By term</th>
          </tr>
          <tr
            v-for="term in comparison.terms"
            :key="term.term"
            :class="{ differs: differ(term.credits) || term.only[0].length || term.only[1].length }"
          >
            <th>{{ termName(term.term) }}</th>
            <td v-for="which in ([0, 1] as const)" :key="which">
              <b>{{ formatCredits(term.credits[which]) }} cr</b>
              <span v-for="one in term.only[which]" :key="one.course" class="only"
                >{{ one.course }}
                <span class="second small">{{
                  one.other
                    ? `${termName(one.other)} in ${nameOf(picked[which === 0 ? 1 : 0])}`
                    : `not in ${nameOf(picked[which === 0 ? 1 : 0])}`
                }}</span></span
              >
              <span v-if="term.both.length" class="second both"
                >{{ term.only[which].length ? 'and both' : 'both' }}: {{ term.both.join(', ') }}</span
              >
            </td>
          </tr>
        </tbody>
        <tbody>
          <tr class="group">
            <th colspan="3">By requirement area</th>
          </tr>
          <tr
            v-for="area in comparison.areas"
            :key="area.program + area.title"
            :class="{ differs: differ(area.state) || differ(area.open) }"
          >
            <th>{{ area.title }}</th>
            <td v-for="which in ([0, 1] as const)" :key="which">
              {{ area.state[which] }}{{ area.open[which] ? `, ${formatCredits(area.open[which])} cr open` : '' }}
            </td>
          </tr>
        </tbody>
      </DataTable>
      <p class="second small">Rows with a mark at the left differ.</p>
    </template>
  </div>
</template>

<style scoped>
:deep(table) { width: 100%; border-collapse: collapse; table-layout: fixed; }
.what { width: 170px; }
th, td { text-align: left; vertical-align: top; padding: 6px 12px; border-top: 1px solid var(--line-soft); font-weight: 400; }
tbody th { color: var(--second); border-left: 4px solid transparent; }
.differs th { border-left-color: var(--act); color: var(--ink); font-weight: 650; }
.group th { font-weight: 700; color: var(--ink); padding-top: 14px; }
.big { font-size: 17px; font-weight: 700; }
.both { margin-left: 8px; }
.only .second { font-weight: 400; }
.only { display: inline-block; margin: 0 10px 0 8px; font-weight: 650; }
@media (max-width: 700px) { .what { width: 92px; } th, td { padding: 5px 6px; } }
</style>
