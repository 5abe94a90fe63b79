<script setup lang="ts">
import type { comparePlans } from '@ridgeway/core/planning'
import { formatCredits, sayOpen } from '@ridgeway/words'
import type { PlanHead } from '#shared/contract/views/student'

/** Two plans row by row, with a mark where they differ; which two is chosen in the table's head. */
const { comparison, list } = defineProps<{ comparison: ReturnType<typeof comparePlans>, list: readonly PlanHead[] }>()
const picked = defineModel<[number, number]>('picked', { required: true })
const catalog = useCatalogStore()
const nameOf = (id: number) => list.find(plan => plan.id === id)?.name ?? 'a plan'
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'not all covered'
const differ = (two: readonly [unknown, unknown]) => two[0] !== two[1]
</script>

<template>
  <DataTable class="card">
    <thead>
      <tr>
        <th class="what"><span class="visually-hidden">What</span></th>
        <th v-for="which in ([0, 1] as const)" :key="which">
          <span class="visually-hidden">{{ nameOf(picked[which]) }}</span>
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
          {{ area.state[which] }}{{ area.open[which] ? `, ${sayOpen(area.open[which])}` : '' }}
        </td>
      </tr>
    </tbody>
  </DataTable>
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
