<script setup lang="ts">
import type { CourseItem } from '@ridgeway/core/catalog'
import { findLinks } from '@ridgeway/core/planning'
import { readCourseRules } from '@ridgeway/core/prerequisites'
import { factsOf } from '@ridgeway/core/record'
import { creditRange, describeOffering, sayCheck, sayMove } from '@ridgeway/words'

/** All about one tile: what is wrong with it and what mends it, its rule as a sentence, when it is offered, what it counts for. */
const props = defineProps<{ item: CourseItem }>()
const emit = defineEmits<{ close: [] }>()
const { commands } = usePlan()
const { edit } = commands
const movable = computed(() => commands.isMovable(props.item.id))
const student = useStudentStore()
const catalog = useCatalogStore()
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
const find = useFindStore()
const { open: openFind } = useInAddress('find')
const workingTerm = useWorkingTermStore()
function findSections() {
  find.scope = 'sections'
  find.clear()
  find.set({ text: course.value.code, canTake: undefined })
  openFind('1')
}
const entry = computed(() => student.entries.find(one => one.id === props.item.id))
const slide = computed(() => {
  const window = student.projection?.windows[props.item.id]
  if (!window) return ''
  if (window.latest === null || window.earliest === null) return 'cannot stand anywhere as the plan is; see what comes first'
  const last = catalog.term(window.latest)?.name ?? window.latest
  return window.slack === 0
    ? `none: any later, and the finish moves`
    : `${count(window.slack, 'term')}: up to ${last}${waits.value.length > 0 ? ', if what waits for it moves along' : ''}`
})
</script>

<template>
  <SidePanel :title="`${course.code} ${course.title}`" :about="item.id" @close="emit('close')">
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
        <RuleSentence v-else :reason="before?.reason ?? null" :text="course.prerequisite" />
        <template v-if="course.corequisite">
          <p class="second small">Goes with</p>
          <RuleSentence :reason="beside?.reason ?? null" :text="course.corequisite" />
        </template>
        <p v-if="waits.length"><span class="second small">Waits for it</span> {{ waits.join(', ') }}</p>
        <CommentThread v-if="entry" :entry="item.id" class="comments" />
      </div>
      <div>
        <p><span class="second small">Offered</span> {{ describeOffering(course) }}</p>
        <p v-if="slide"><span class="second small">Slack</span> {{ slide }}</p>
        <p v-if="course.repeatLimit > 1"><span class="second small">Repeatable</span> gives credit {{ course.repeatLimit }} times</p>
        <p><span class="second small">Counts for</span> {{ uses.length ? uses.join('; ') : 'nothing yet' }}</p>
        <CourseMoves v-if="movable" :item="item" :course="course" :works="term => readRules(term).before?.firmness !== 'unmet'" />
      </div>
    </div>
  </SidePanel>
</template>

<style scoped>
.parts { display: grid; grid-template-columns: 1.3fr 1fr 1.2fr; gap: 24px; }
p { margin: 3px 0; }
.comments { margin-top: 10px; }
.moves { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
@media (max-width: 800px) { .parts { grid-template-columns: 1fr; gap: 8px; } }
</style>
