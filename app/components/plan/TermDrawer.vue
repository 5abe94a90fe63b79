<script setup lang="ts">
import { type Term, termPhase } from '@ridgeway/core/catalog'
import { formatCredits, sayCredits, sayCheck } from '@ridgeway/words'

/** One term of the plan: its load against the term's own limits and the student's wish, what is wrong, notes and comments. */
const props = defineProps<{ term: Term }>()
const emit = defineEmits<{ close: [] }>()
const { commands: { edit } } = usePlan()
const student = useStudentStore()
const { today } = useNow()
const load = computed(() => student.standing!.loads.find(one => one.term === props.term.code)!)
const cap = computed(() => student.state!.file.capRaised[props.term.code] ?? props.term.loadCap)
const isOff = computed(() => student.plan.wishes.termsOff.includes(props.term.code))
const isFuture = computed(() => termPhase(props.term, today.value) === 'future')
const checks = computed(() => student.standing!.checks.filter(check => check.term === props.term.code))
const note = ref('')
watch(() => props.term.code, () => note.value = student.plan.termNotes[props.term.code] ?? '', { immediate: true })
const saveNote = () =>
  note.value !== (student.plan.termNotes[props.term.code] ?? '')
  && edit([{ kind: 'term note', term: props.term.code, note: note.value }], `Note on ${props.term.name} kept`)
function toggleOff() {
  const { wishes } = student.plan
  const termsOff = isOff.value ? wishes.termsOff.filter(code => code !== props.term.code) : [...wishes.termsOff, props.term.code]
  edit([{ kind: 'wishes', wishes: { ...wishes, termsOff } }],
    isOff.value ? `${props.term.name} is no longer wanted off` : `${props.term.name} wanted off`)
}
</script>

<template>
  <SidePanel :title="term.name" :about="term.code" @close="emit('close')">
    <div class="parts">
      <div>
        <p>
          <b>{{ sayCredits(load.credits) }}</b>, about {{ load.hours }} hours of work a week: {{ load.status }}.
        </p>
        <p class="second">
          Full-time from {{ sayCredits(term.fullTime) }}, part-time from {{ formatCredits(Math.ceil(term.fullTime / 2)) }}; the
          cap is {{ formatCredits(cap) }}{{ cap === term.loadCap ? '' : ', raised for this student' }}.
          {{ student.plan.wishes.target === null ? '' : `You wish for ${formatCredits(student.plan.wishes.target)} in a term.` }}
        </p>
        <p class="second">
          {{ longDate(term.start) }} to {{ longDate(term.end) }}.
          {{ term.scheduled ? 'Its sections are published.' : 'Its sections are not published yet.' }}
        </p>
        <v-checkbox
          v-if="isFuture && student.mayEdit"
          :model-value="isOff"
          label="I want this term off"
          @update:model-value="toggleOff"
        />
      </div>
      <div>
        <p v-for="check in checks" :key="check.id" :class="{ blocking: check.severity === 'blocker' }">{{ sayCheck(check) }}</p>
        <p v-if="checks.length === 0" class="second">Nothing is wrong with it.</p>
        <v-textarea
          v-if="student.mayEdit"
          v-model="note"
          label="Note on this term"
          rows="2"
          auto-grow
          maxlength="500"
          @blur="saveNote"
        />
      </div>
      <CommentThread :term="term.code" />
    </div>
  </SidePanel>
</template>

<style scoped>
.parts { display: grid; grid-template-columns: 1.2fr 1fr 1fr; gap: 24px; }
p { margin: 3px 0 5px; }
@media (max-width: 800px) { .parts { grid-template-columns: 1fr; gap: 8px; } }
</style>
