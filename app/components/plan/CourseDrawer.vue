<script setup lang="ts">
import { type CourseItem, isOffered, termPhase } from '@ridgeway/core/catalog'
import { findLinks } from '@ridgeway/core/planning'
import { readCourseRules, type Reason } from '@ridgeway/core/prerequisites'
import { factsOf } from '@ridgeway/core/record'
import { creditRange, describeOffering, formatCredits, sayBecause, sayCheck, sayMove } from '@ridgeway/words'

/** All about one tile: what is wrong with it and what mends it, its rule as a sentence, when it is offered, what it counts for. */
const props = defineProps<{ item: CourseItem }>()
const { commands, close, remove } = usePlan()
const { edit } = commands
const movable = computed(() => commands.isMovable(props.item.id))
const student = useStudentStore()
const catalog = useCatalogStore()
const { today } = useNow()
const { checksOf } = useItems()

const course = computed(() => catalog.courses.get(props.item.course)!)
const checks = computed(() => checksOf(props.item).map(check => ({ ...check, moves: student.moves(check) })))
const facts = computed(() => factsOf(student.state!.file, student.standing!.items))
const readRules = (term: string) => readCourseRules(course.value, term, facts.value, student.rules)
const rules = computed(() => props.item.term && props.item.state !== 'completed' ? readRules(props.item.term) : null)
const before = computed(() => rules.value?.before ?? null)
const uses = computed(() =>
  student.standing!.reports.flatMap(report =>
    [...report.areas.flatMap(area => area.lines), ...report.overlays]
      .filter(line => line.uses.some(use => use.item.id === props.item.id)).map(line => `${line.title} (${report.title})`),
  ),
)
const waits = computed(() =>
  findLinks(props.item, { items: student.standing!.items, courses: catalog.courses }).after.map(id =>
    student.standing!.items.find(item => item.id === id)!.course,
  ),
)
const beside = computed(() => rules.value?.beside ?? null)
function setCredits(credits: number) {
  edit([{ kind: 'credits', entry: props.item.id, credits }], `${props.item.course} set to ${formatCredits(credits)} credits`)
}
const find = useFindStore()
const { open: openFind } = useInAddress('find')
const workingTerm = useWorkingTermStore()
function findSections() {
  find.scope = 'sections'
  find.clear()
  find.set({ text: course.value.code, canTake: undefined })
  openFind('1')
}
const FIRM = { 'passed': 'yes', 'if passed': 'if passed', 'if planned': 'in the plan', 'unmet': 'no' } as const
/** Credits to choose from, by halves, for a course whose credits vary. */
const amounts = computed(() => {
  const { credits, creditsMax } = course.value
  return creditsMax > credits ? Array.from({ length: (creditsMax - credits) / 100 + 1 }, (_, i) => credits + i * 100) : []
})
const entry = computed(() => student.entries.find(one => one.id === props.item.id))
/** Terms in which the course is offered and its prerequisite would hold. */
const places = computed(() =>
  catalog.terms.filter(term => termPhase(term, today.value) === 'future' && isOffered(course.value, term))
    .map(term => ({ term, works: readRules(term.code).before?.firmness !== 'unmet' })).slice(0, 6),
)
const slide = computed(() => {
  const window = student.projection?.windows[props.item.id]
  if (!window) return ''
  if (window.latest === null || window.earliest === null) return 'cannot stand anywhere as the plan is; see what comes first'
  const last = catalog.term(window.latest)?.name ?? window.latest
  return window.slack === 0
    ? `none: any later, and the finish moves`
    : `${count(window.slack, 'term')}: up to ${last}${waits.value.length > 0 ? ', if what waits for it moves along' : ''}`
})
const leaves = (reason: Reason): Reason[] => reason.parts.length ? reason.parts.flatMap(leaves) : [reason]
const note = ref('')
watch(() => props.item.id, () => note.value = student.entries.find(entry => entry.id === props.item.id)?.note ?? '', { immediate: true })
const saveNote = () =>
  note.value !== (student.entries.find(entry => entry.id === props.item.id)?.note ?? '')
  && edit([{ kind: 'note', entry: props.item.id, note: note.value }], 'Note kept')
</script>

<template>
  <SidePanel :title="`${course.code} ${course.title}`" :about="item.id" @close="close">
    <template #beside
      ><span class="second">· {{ creditRange(course) }}</span></template
    >
    <div class="parts">
      <div>
        <p>{{ course.description }}</p>
        <p
          v-if="workingTerm.term?.scheduled"
        >
          <WordLink class="small" @click="findSections">Sections in {{ workingTerm.term.name }}</WordLink>
        </p>
        <div v-for="check in checks" :key="check.id" class="check">
          <p :class="{ blocking: check.severity === 'blocker' }">
            <b>{{ sayCheck(check) }}</b>
          </p>
          <p v-if="check.moves.length && movable" class="moves">
            <span class="second small">Moves that mend it</span>
            <ActButton
              v-for="{ move, operations } in check.moves"
              :key="sayMove(move)"
              @click="edit(operations, sayMove(move))"
            >
              {{ sayMove(move) }}
            </ActButton>
          </p>
        </div>
      </div>
      <div>
        <p class="second small">Comes first</p>
        <p v-if="!course.prerequisite">Nothing.</p>
        <template v-else-if="before">
          <p v-for="(leaf, i) in leaves(before.reason)" :key="i" class="rule">
            <span class="firm" :class="{ blocking: leaf.firmness === 'unmet' }">{{ FIRM[leaf.firmness] }}</span>
            <span>{{ sayBecause(leaf) }}</span>
          </p>
        </template>
        <p v-else>{{ course.prerequisite }}</p>
        <template v-if="course.corequisite">
          <p class="second small">Goes with</p>
          <p v-for="(leaf, i) in beside ? leaves(beside.reason) : []" :key="`c${i}`" class="rule">
            <span class="firm" :class="{ blocking: leaf.firmness === 'unmet' }">{{ FIRM[leaf.firmness] }}</span>
            <span>{{ sayBecause(leaf) }}</span>
          </p>
          <p v-if="!beside">{{ course.corequisite }}</p>
        </template>
        <p v-if="waits.length"><span class="second small">Waits for it</span> {{ waits.join(', ') }}</p>
        <CommentThread v-if="entry" :entry="item.id" class="comments" />
      </div>
      <div>
        <p><span class="second small">Offered</span> {{ describeOffering(course) }}</p>
        <p v-if="slide"><span class="second small">Slack</span> {{ slide }}</p>
        <p v-if="course.repeatLimit > 1"><span class="second small">Repeatable</span> gives credit {{ course.repeatLimit }} times</p>
        <p><span class="second small">Counts for</span> {{ uses.length ? uses.join('; ') : 'nothing yet' }}</p>
        <template v-if="movable">
          <p class="second small">Can stand in</p>
          <p class="moves">
            <ActButton
              v-for="{ term, works } in places"
              :key="term.code"
              :off="term.code === item.term && 'It stands here'"
              :class="{ faint: !works }"
              :title="works ? '' : 'its prerequisite would not hold there'"
              @click="edit([{ kind: 'move', entry: item.id, term: term.code }], `${item.course} moved to ${term.name}`)"
            >
              {{ term.name }}
            </ActButton>
          </p>
          <p class="moves">
            <WordLink @click="commands.pin([item.id])">{{ entry?.pinned ? 'Unpin' : 'Pin here' }}</WordLink> <WordLink
              class="blocking"
              @click="remove([item.id])"
            >
              Take out of the plan
            </WordLink>
          </p>
          <p v-if="amounts.length && entry" class="moves">
            <v-select
              class="amount"
              label="Credits"
              :model-value="entry.credits"
              :items="amounts.map(amount => ({ value: amount, title: formatCredits(amount) }))"
              @update:model-value="setCredits"
            />
          </p>
          <v-text-field
            v-model="note"
            label="Note"
            maxlength="500"
            @blur="saveNote"
            @keydown.enter="saveNote"
          />
        </template>
      </div>
    </div>
  </SidePanel>
</template>

<style scoped>
.amount { max-width: 130px; }
.parts { display: grid; grid-template-columns: 1.3fr 1fr 1.2fr; gap: 24px; }
p { margin: 3px 0; }
.comments { margin-top: 10px; }
.moves { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.faint { border-style: dashed; opacity: .75; }
.rule { display: grid; grid-template-columns: 76px 1fr; align-items: baseline; }
.firm { font-weight: 700; font-size: 12.5px; }
@media (max-width: 800px) { .parts { grid-template-columns: 1fr; gap: 8px; } }
</style>
