<script setup lang="ts">
import { type Term, termPhase } from '@ridgeway/core/catalog'
import { factsOf } from '@ridgeway/core/record'
import { type Candidate, findCandidates, type LineReport } from '@ridgeway/core/requirements'
import { creditRange, sayCandidate } from '@ridgeway/words'

/** What could fill an open line: what can be taken in the working term, later, or after something else; placed in one press. */
const props = defineProps<{ line: LineReport }>()
const emit = defineEmits<{ placed: [words: string] }>()
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { today } = useNow()
const commands = usePlanCommands()
/** Candidates that are shown of each group before more are asked for. */
const FIRST = 6
const groups = computed(() => {
  const term = workingTerm.term
  // What it says of a placing comes when the line may be filled already: it stays, with nothing to show.
  if (!term || !student.state || !student.standing || props.line.open === 0) return []
  const found = findCandidates({
    line: props.line,
    workingTerm: term,
    terms: catalog.terms.filter(one => termPhase(one, today.value) === 'future'),
    rules: student.rules,
    facts: factsOf(student.state.file, student.standing.items),
  })
  return [
    { id: 'now', title: `Offered in ${term.name}, you can take: ${found.now.length}`, list: found.now },
    { id: 'later', title: `Offered later: ${found.later.length}`, list: found.later },
    { id: 'blocked', title: `Needs something first: ${found.blocked.length}`, list: found.blocked },
  ].filter(group => group.list.length > 0)
})
const shown = ref<Record<string, boolean>>({})
const visible = (id: string, list: Candidate[]) => shown.value[id] ? list : list.slice(0, FIRST)
async function place({ course }: Candidate, term: Term) {
  await commands.place(course.code, term).done
  emit('placed', commands.said.value)
}
</script>

<template>
  <div v-for="group in groups" :key="group.id" class="group">
    <h3>{{ group.title }}</h3>
    <ul>
      <li v-for="candidate in visible(group.id, group.list)" :key="candidate.course.code">
        <CourseBlock
          :code="candidate.course.code"
          :title="candidate.course.title"
          state="considering"
          :corner="creditRange(candidate.course)"
          class="candidate"
        />
        <span class="small second words">{{ sayCandidate(candidate) }}</span>
        <span v-if="candidate.term && group.id !== 'blocked' && student.mayEdit" class="small places">
          <WordLink class="small" @click="place(candidate, candidate.term)">Place in {{ candidate.term.name }}</WordLink>
          <v-menu v-if="candidate.terms.length > 1">
            <template #activator="{ props: menu }">
              <WordLink v-bind="menu" class="small" :aria-label="`Place ${candidate.course.code} in another term`">or later ▾</WordLink>
            </template>
            <v-list :aria-label="`Terms for ${candidate.course.code}`">
              <v-list-item
                v-for="term in candidate.terms.slice(1)"
                :key="term.code"
                :title="term.name"
                @click="place(candidate, term)"
              />
            </v-list>
          </v-menu>
        </span>
      </li>
    </ul>
    <WordLink v-if="group.list.length > FIRST && !shown[group.id]" class="small" @click="shown[group.id] = true">
      {{ group.list.length - FIRST }} more
    </WordLink>
  </div>
</template>

<style scoped>
.group { flex: 1 1 300px; }
ul { list-style: none; padding: 0; margin: 5px 0; display: grid; gap: 6px; }
li { display: grid; grid-template-columns: 170px 1fr; gap: 2px 10px; align-items: center; }
.candidate { grid-row: span 2; width: 170px; }
.candidate :deep(.corner) { bottom: auto; top: 3px; font-weight: 500; }
.places { display: flex; flex-wrap: wrap; gap: 2px 10px; }
.words:last-child { grid-row: span 2; }
</style>
