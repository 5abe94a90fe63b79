<script setup lang="ts">
import type { ExceptionAsked } from '@ridgeway/core/advising'
import { sayCheck, sayMove } from '@ridgeway/words'

/** The problems of the plan one after the other, blockers first, each with the moves that mend it. */
const props = defineProps<{ at: string }>()
const emit = defineEmits<{ close: [] }>()
const { problems: checks, blockers, panel, goTo, mend } = usePlan()
const student = useStudentStore()
const catalog = useCatalogStore()
const index = computed(() => Math.max(0, checks.value.findIndex(check => check.id === props.at)))
const check = computed(() => checks.value[index.value])
const moves = computed(() => check.value && student.mayEdit ? student.moves(check.value) : [])
/** What somebody could lift, where that is what blocks. */
const asked = computed((): ExceptionAsked | null => {
  const one = check.value
  if (one?.kind === 'prerequisite' && one.course && one.term) return { kind: 'prerequisite', course: one.course, term: one.term }
  return one?.kind === 'over the cap' && one.term ? { kind: 'load', term: one.term, credits: one.credits } : null
})
const alone = computed(() => checks.value.length < 2 && 'There is only this one')
function step(by: number) {
  const next = checks.value[(index.value + by + checks.value.length) % checks.value.length]
  if (next) goTo(next)
}
useKey('next problem', () => step(1))
useKey('previous problem', () => step(-1))
</script>

<template>
  <SidePanel title="Problems" :about="at" @close="emit('close')">
    <div v-if="check" class="parts">
      <div class="walk">
        <p class="second small" role="status">
          Problem {{ index + 1 }} of {{ checks.length }} · {{ count(blockers.length, 'blocker') }},
          {{ count(checks.length - blockers.length, 'caution') }}
        </p>
        <p class="turn">
          <ActButton :off="alone" @click="step(-1)">Previous</ActButton>
          <ActButton :off="alone" @click="step(1)">Next <span class="kbd">n</span></ActButton>
        </p>
      </div>
      <div>
        <p class="second small">
          {{ check.severity === 'blocker' ? 'Blocker' : 'Caution'
          }}{{ check.term ? ` · ${catalog.term(check.term)?.name}` : ' · the whole plan' }}
        </p>
        <p class="what" :class="{ blocking: check.severity === 'blocker' }">
          <b>{{ sayCheck(check) }}</b>
        </p>
        <p v-if="moves.length" class="moves">
          <span class="second small">Moves that mend it</span> <ActButton
            v-for="{ move, operations } in moves"
            :key="sayMove(move)"
            @click="mend(operations, sayMove(move))"
          >
            {{ sayMove(move) }}
          </ActButton>
        </p>
        <p v-if="asked"><AskException :asked="asked" /></p>
        <p v-if="!moves.length && check.kind === 'not reached'" class="moves">
          <span class="second small">No single course mends it.</span> <ActButton
            v-if="student.mayEdit" @click="panel = { kind: 'draft' }">Draft the rest</ActButton>
        </p>
        <p v-else-if="!moves.length && check.kind === 'gpa'" class="second small">
          Grades mend it, or repeating a course with a low grade; no course moved in the plan does.
        </p>
        <p v-else-if="!moves.length" class="second small">
          No single move mends it without making another problem. Try two: walk to the term and look what can give way.
        </p>
      </div>
    </div>
    <p v-else>Nothing is wrong with the plan any more.</p>
  </SidePanel>
</template>

<style scoped>
.parts { display: grid; grid-template-columns: 230px 1fr; gap: 24px; }
p { margin: 3px 0; }
.what { font-size: 15px; }
.moves, .turn { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
@media (max-width: 800px) { .parts { grid-template-columns: 1fr; gap: 8px; } }
</style>
