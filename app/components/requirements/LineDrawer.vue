<script setup lang="ts">
import { type Term, termPhase } from '@ridgeway/core/catalog'
import { factsOf, lineRef } from '@ridgeway/core/record'
import { type Candidate, findCandidates, type LineReport } from '@ridgeway/core/requirements'
import { creditRange, describeLine, sayBrokenPin, sayCandidate, sayLost, sayUseChange } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** What a line asks, what counts and why, and what could fill it: placed straight into a term. */
const props = defineProps<{ line: LineReport, program: string, itemId: string | null }>()
const emit = defineEmits<{ close: [], item: [itemId: string | null] }>()
const student = useStudentStore()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
const session = useSessionStore()
const workingTerm = useWorkingTermStore()
const { today } = useNow()
const commands = usePlanCommands()
const said = ref('')
const problem = ref<Problem | null>(null)
watch(() => [props.line.id, props.itemId], () => {
  said.value = ''
  problem.value = null
})

const find = useFindStore()
const { open: openFind } = useInAddress('find')
function findSections() {
  find.scope = 'sections'
  find.clear()
  find.set({ lines: [lineRef(props.program, props.line.id)] })
  openFind('1')
}
const groups = computed(() => {
  const term = workingTerm.term
  const state = student.state
  if (!term || !state || !student.standing || props.line.open === 0) return []
  const found = findCandidates({
    line: props.line,
    workingTerm: term,
    terms: catalog.terms.filter(t => termPhase(t, today.value) === 'future'),
    rules: student.rules,
    facts: factsOf(student.state!.file, student.standing!.items),
  })
  return [
    { id: 'now', title: `Offered in ${term.name}, you can take: ${found.now.length}`, list: found.now },
    { id: 'later', title: `Offered later: ${found.later.length}`, list: found.later },
    { id: 'blocked', title: `Needs something first: ${found.blocked.length}`, list: found.blocked },
  ].filter(group => group.list.length > 0)
})
const shown = ref<Record<string, boolean>>({})
const visible = (id: string, list: Candidate[]) => shown.value[id] ? list : list.slice(0, 6)
const termName = (code: string | null) => code ? catalog.term(code)?.name ?? code : 'transfer or exam'
const unreachable = computed(() => requirements.unreachable[props.program]?.[props.line.id])
const isAdvisor = computed(() => session.account?.role === 'advisor')
const broken = computed(() =>
  requirements.reports.find(report => report.code === props.program)?.brokenPins.filter(pin => pin.line === props.line.id) ?? [],
)
/** The one course asked about, and what would change if it counted elsewhere. */
const asked = computed(() => props.line.uses.find(use => use.item.id === props.itemId))
const changes = computed(() => asked.value && !props.line.overlay ? requirements.changesFor(props.program, asked.value.item.id) : [])

async function place({ course }: Candidate, term: Term) {
  await commands.place(course.code, term).done
  said.value = commands.said.value
}
async function pin(itemId: string, course: string, line: string | null) {
  problem.value = await requirements.pinUse(props.program, itemId, line)
  if (problem.value) return
  const now = line ? requirements.lineOf(props.program, line) : undefined
  said.value = !line
    ? `${course} is not pinned any more.`
    : now?.uses.some(use => use.item.id === itemId)
      ? `${course} is pinned to ${now.title}.`
      : `${course} is pinned, but the pin could not be kept: less would be filled that way.`
  if (line && line !== props.line.id) emit('item', null)
}
async function takeBack(id: number) {
  problem.value = await requirements.takeBack(id)
}
</script>

<template>
  <SidePanel :title="line.title" :about="`${line.id} ${itemId}`" @close="$emit('close')">
    <FailedBox v-if="problem" :problem="problem" />
    <div class="parts">
      <div class="rule">
        <p>{{ describeLine(line.rule) }}</p>
        <p v-if="unreachable" class="blocking strong">{{ sayLost(unreachable) }}</p>
        <p v-for="exception in line.exceptions" :key="exception.id" class="small exception">
          <b>{{
            exception.kind === 'waiver'
              ? `Waived${exception.course ? `: ${exception.course}` : ''}`
              : `${exception.course} counts here${exception.instead ? ` for ${exception.instead}` : ''}`
          }}</b>, granted by {{ exception.by }}: {{ exception.reason }}
          <WordLink v-if="isAdvisor" class="small" @click="takeBack(exception.id)">Take back</WordLink>
        </p>
        <ul class="uses">
          <li v-for="use in line.uses" :key="use.item.id">
            <WordLink
              :aria-expanded="asked?.item.id === use.item.id"
              @click="$emit('item', asked?.item.id === use.item.id ? null : use.item.id)"
            >
              {{ use.item.course }}
            </WordLink>
            <span class="small second how"
              >{{ use.item.state }}<template v-if="use.item.grade"> with {{ use.item.grade }}</template
              >, {{ termName(use.item.term) }}<template v-if="use.substituted">, by substitution</template></span
            >
            <template v-if="student.mayEdit && !line.overlay">
              <WordLink
                v-if="requirements.pinOf(program, use.item.id) === line.id"
                class="small"
                @click="pin(use.item.id, use.item.course, null)"
              >
                Unpin
              </WordLink>
              <WordLink v-else class="small" @click="pin(use.item.id, use.item.course, line.id)">Pin here</WordLink>
            </template>
          </li>
        </ul>
        <p v-for="pinned in broken" :key="pinned.itemId" class="small blocking">
          {{ sayBrokenPin(pinned) }}
          <WordLink v-if="student.mayEdit" class="small" @click="pin(pinned.itemId, pinned.course, null)">
            Unpin
          </WordLink>
        </p>
        <p v-if="line.open === 0 && line.needed > 0" class="second small">
          {{ line.state === 'met' ? 'Nothing more is needed.' : 'Nothing more is needed, once these are passed.' }}
        </p>
        <p
          v-if="line.open > 0 && workingTerm.term?.scheduled"
        >
          <WordLink class="small" @click="findSections">Find sections in {{ workingTerm.term.name }} that count for it</WordLink>
        </p>
        <p class="said" role="status">{{ said }}</p>
      </div>

      <div v-if="asked" class="group elsewhere">
        <h3>Why {{ asked.item.course }} counts here</h3>
        <p v-if="line.overlay" class="small">An overlay looks across the program: the course counts in its own line and here again.</p>
        <p v-else-if="changes.length === 0" class="small">
          No other line of this program accepts it{{ asked.item.grade ? ` with ${asked.item.grade}` : '' }}.
        </p>
        <p v-else class="small second">
          {{
            changes.every(change => change.cost > 0)
              ? 'Anywhere else, more of the program would stay open.'
              : changes.some(change => change.cost > 0)
                ? 'Of the lines that accept it, none would fill more.'
                : 'It would do as much elsewhere; the lines that accept fewer courses are served first.'
          }}
        </p>
        <ul v-if="!line.overlay && changes.length">
          <li v-for="change in changes" :key="change.lineId" class="change">
            <span class="small" :class="{ blocking: change.cost > 0 }">{{ sayUseChange(change) }}</span>
            <WordLink
              v-if="student.mayEdit"
              class="small"
              @click="pin(asked.item.id, asked.item.course, change.lineId)"
            >
              Pin to {{ change.title }}
            </WordLink>
          </li>
        </ul>
      </div>

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
              <WordLink class="small" @click="place(candidate, candidate.term)">
                Place in {{ candidate.term.name }}
              </WordLink>
              <v-menu v-if="candidate.terms.length > 1">
                <template #activator="{ props: menu }"
                  ><WordLink
                    v-bind="menu"
                    class="small"
                    :aria-label="`Place ${candidate.course.code} in another term`"
                  >
                    or later ▾
                  </WordLink></template
                >
                <v-list :aria-label="`Terms for ${candidate.course.code}`"
                  ><v-list-item
                    v-for="term in candidate.terms.slice(1)"
                    :key="term.code"
                    :title="term.name"
                    @click="place(candidate, term)"
                /></v-list>
              </v-menu>
            </span>
          </li>
        </ul>
        <WordLink v-if="group.list.length > 6 && !shown[group.id]" class="small" @click="shown[group.id] = true">
          {{ group.list.length - 6 }} more
        </WordLink>
      </div>
      <GrantForm v-if="isAdvisor" :line="line" :program="program" @done="said = $event" />
    </div>
  </SidePanel>
</template>

<style scoped>
.parts { display: flex; gap: 28px; flex-wrap: wrap; }
.rule { flex: 1 1 260px; max-width: 380px; }
.group { flex: 1 1 300px; }
.elsewhere { max-width: 460px; }
p { margin: 3px 0; }
ul { list-style: none; padding: 0; margin: 5px 0; display: grid; gap: 6px; }
.group li:not(.change) { display: grid; grid-template-columns: 170px 1fr; gap: 2px 10px; align-items: center; }
.uses { gap: 2px; }
.uses .words-link + .words-link, .uses span + .words-link { margin-left: 8px; }
.how { margin-left: 6px; }
.change { display: flex; flex-direction: column; align-items: flex-start; }
.candidate { grid-row: span 2; width: 170px; }
.candidate :deep(.corner) { bottom: auto; top: 3px; font-weight: 500; }
.places { display: flex; gap: 10px; }
.words:last-child { grid-row: span 2; }
.exception { border-left: 3px solid var(--act); padding-left: 8px; }
.said { color: var(--act); font-weight: 650; min-height: 1.3em; }
</style>
