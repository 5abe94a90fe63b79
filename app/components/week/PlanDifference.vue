<script setup lang="ts">
import { joinWords } from '@ridgeway/words'

/** How the line-up differs from the plan of the term: always told, with the way to make them agree. */
const student = useStudentStore()
const week = useWeekStore()
const workingTerm = useWorkingTermStore()
const commands = providePlanCommands()
const planned = computed(() => new Set(student.standing?.items.filter(item => item.term === workingTerm.code && item.state !== 'completed')
  .map(item => item.course)))
const chosen = computed(() => (week.courses ?? []).filter(({ bundles }) => bundles.some(one => one.picked || one.registered)).map(one =>
  one.course))
const extra = computed(() => chosen.value.filter(course => !student.entries.some(entry => entry.course === course
  && entry.term === workingTerm.code)
&& !student.state?.registered.some(row => row.course === course && row.term === workingTerm.code)))
const missing = computed(() => student.unpicked.filter(course => planned.value.has(course)))
async function planAll() {
  for (const course of extra.value) await commands.place(course, workingTerm.term!).done
  announce('Planned: the plan holds what is picked.')
}
</script>

<template>
  <p v-if="extra.length || (missing.length && chosen.length)" class="difference">
    <template v-if="extra.length">
      {{ joinWords(extra, 'and') }} {{ extra.length === 1 ? 'is' : 'are' }} picked and not in your plan.
      <WordLink
        v-if="student.mayEdit && workingTerm.term"
        @click="planAll"
      >
        Plan {{ extra.length === 1 ? 'it' : 'them' }} in {{ workingTerm.term.name }}
      </WordLink>
    </template>
    <span
      v-if="missing.length && chosen.length"
      class="second"
    >
      {{ joinWords(missing, 'and') }} {{ missing.length === 1 ? 'is' : 'are' }} planned and not picked yet.
    </span>
  </p>
</template>

<style scoped>
.difference { margin: 4px 0; display: flex; flex-wrap: wrap; gap: 4px 10px; }
</style>
