<script setup lang="ts">
import { creditRange, findCandidates, newEntryId, termPhase, type Candidate, type LineReport } from '@ridgeway/core'

/** What a line asks, what counts and why, and what could fill it: placed straight into a term. */
const props = defineProps<{ line: LineReport, program: string }>()
defineEmits<{ close: [] }>()
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const { today } = useNow()
const said = ref('')

const groups = computed(() => {
  const term = workingTerm.term
  const state = student.state
  if (!term || !state || !student.standing || props.line.open === 0) return []
  const found = findCandidates({
    line: props.line, workingTerm: term, terms: catalog.terms.filter(t => termPhase(t, today.value) === 'future'), courses: catalog.courses, scale: catalog.rules.scale,
    facts: { items: student.standing.items, programs: state.file.programs, placements: state.file.placements, permissions: state.file.permissions },
  })
  return [
    { id: 'now', title: `${term.name}, you can take: ${found.now.length}`, list: found.now },
    { id: 'later', title: `Later: ${found.later.length}`, list: found.later },
    { id: 'blocked', title: `Something must come first: ${found.blocked.length}`, list: found.blocked },
  ].filter(group => group.list.length > 0)
})
const shown = ref<Record<string, boolean>>({})
const visible = (id: string, list: Candidate[]) => shown.value[id] ? list : list.slice(0, 6)
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'transfer'

async function place({ course, term }: Candidate) {
  if (!term) return
  const problem = await student.edit([{ kind: 'place', entry: `${newEntryId(course.code, term.code)}-${crypto.randomUUID().slice(0, 4)}`, course: course.code, term: term.code, credits: course.credits }])
  said.value = problem ? `${course.code}: ${problem}.` : `${course.code} is planned for ${term.name}.`
}
</script>

<template>
  <BottomDrawer :title="line.title" @close="$emit('close')">
    <div class="parts">
      <div class="rule">
        <h2>{{ line.title }}</h2>
        <p>{{ line.rule }}</p>
        <p v-for="use in line.uses" :key="use.item.id" class="small">
          <b>{{ use.item.course }}</b> counts here: {{ use.item.state }}<template v-if="use.item.grade"> with {{ use.item.grade }}</template>, {{ termName(use.item.term) }}.
        </p>
        <p v-if="line.open === 0" class="second small">{{ line.state === 'met' ? 'Nothing more is needed.' : 'Nothing more is needed, once these are passed.' }}</p>
        <p class="said" role="status">{{ said }}</p>
      </div>
      <div v-for="group in groups" :key="group.id" class="group">
        <h3>{{ group.title }}</h3>
        <ul>
          <li v-for="candidate in visible(group.id, group.list)" :key="candidate.course.code">
            <CourseBlock :code="candidate.course.code" :title="candidate.course.title" state="considering" :corner="creditRange(candidate.course)" class="candidate" />
            <span class="small second words">{{ candidate.words }}</span>
            <button v-if="candidate.term && group.id !== 'blocked' && student.mayEdit" class="words-link small" type="button" @click="place(candidate)">Place in {{ candidate.term.name }}</button>
          </li>
        </ul>
        <button v-if="group.list.length > 6 && !shown[group.id]" class="words-link small" type="button" @click="shown[group.id] = true">{{ group.list.length - 6 }} more</button>
      </div>
    </div>
  </BottomDrawer>
</template>

<style scoped>
.parts { display: flex; gap: 28px; flex-wrap: wrap; }
.rule { flex: 1 1 240px; max-width: 340px; }
.group { flex: 1 1 300px; }
p { margin: 3px 0; }
ul { list-style: none; padding: 0; margin: 5px 0; display: grid; gap: 6px; }
li { display: grid; grid-template-columns: 170px 1fr; gap: 2px 10px; align-items: center; }
.candidate { grid-row: span 2; width: 170px; }
.candidate :deep(.corner) { bottom: auto; top: 3px; font-weight: 500; }
.words:last-child { grid-row: span 2; }
.said { color: var(--act); font-weight: 650; min-height: 1.3em; }
</style>
