<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { clockTime, sayDelivery, sayGrading, sayMoney } from '@ridgeway/words'
import type { FoundBundle } from '#shared/contract/views/find'

/** Up to four bundles side by side: what is the same is said once, in pale. */
const find = useFindStore()
defineEmits<{ pick: [bundle: FoundBundle] }>()
const { sayWhen, sayWhere, sayFit, saySeats, sayDates, freeBlocks, besideOf } = useFoundBundle()
const student = useStudentStore()
const sectionsOf = (bundle: FoundBundle): Section[] => bundle.sections
const each = (bundle: FoundBundle, of: (section: Section) => string) =>
  [...new Set(sectionsOf(bundle).map(of).filter(Boolean))].join(', ') || '–'
const rows: [string, (bundle: FoundBundle) => string][] = [
  ['When', sayWhen], ['Dates', sayDates], ['Where', sayWhere], ['Given', bundle => each(bundle, section => sayDelivery(section.delivery))],
  ['With', bundle => each(bundle, section => section.instructors.join(', '))], ['Fits', bundle => sayFit(bundle).words],
  ['Seats', saySeats], ['Exam', bundle => each(bundle, section => section.exam
    ? `${longDate(section.exam.date)}, ${clock(section.exam)}`
    : '')],
  ['Fees', bundle => sayMoney(sectionsOf(bundle).reduce((sum, section) => sum + section.fee, 0))],
  ['Graded', bundle => sectionsOf(bundle)[0]!.gradingModes.map(sayGrading).join(', ')],
  ['Notes', bundle => each(bundle, section => [section.topic, section.notes].filter(Boolean).join('. '))],
]
const clock = ({ start, end }: { start: number, end: number }) => `${clockTime(start)}–${clockTime(end)}`
const isSame = (say: (bundle: FoundBundle) => string) => find.compared.length > 1 && new Set(find.compared.map(say)).size === 1
</script>

<template>
  <section class="compare card" aria-label="Side by side">
    <DataTable>
      <thead>
        <tr>
          <th />
          <th v-for="bundle in find.compared" :key="bundle.id" scope="col">
            {{ bundle.course }}-{{ bundle.sections[0]!.label }}
            <WordLink
              class="small"
              :aria-label="`Take ${bundle.course}-${bundle.sections[0]!.label} out of the comparison`"
              @click="find.compare(bundle)"
            >
              take out
            </WordLink>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row">Week</th>
          <td
            v-for="bundle in find.compared"
            :key="bundle.id"
          >
            <WeekStrip :sections="bundle.sections" :beside="besideOf(bundle)" :free="freeBlocks" />
          </td>
        </tr>
        <tr v-for="[name, say] in rows" :key="name" :class="{ second: isSame(say) }">
          <th scope="row">{{ name }}</th>
          <td v-for="bundle in find.compared" :key="bundle.id">{{ say(bundle) }}</td>
        </tr>
        <tr v-if="student.isOwn">
          <th scope="row"><span class="visually-hidden">Acts</span></th>
          <td v-for="bundle in find.compared" :key="bundle.id">
            <ActButton
              :off="(bundle.registered && 'Registered already') || (bundle.picked && 'Picked already')"
              @click="$emit('pick', bundle)"
            >
              Pick {{ bundle.course }}-{{ bundle.sections[0]!.label }}
            </ActButton>
          </td>
        </tr>
      </tbody>
    </DataTable>
  </section>
</template>

<style scoped>
.compare { padding: 10px 14px; overflow-x: auto; }
.compare :deep(td), .compare :deep(th) { vertical-align: top; padding: 3px 18px 3px 0 !important; max-width: 240px; }
</style>
