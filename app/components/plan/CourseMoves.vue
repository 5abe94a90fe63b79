<script setup lang="ts">
import { type Course, type CourseItem, isOffered, termPhase } from '@ridgeway/core/catalog'
import { formatCredits, sayCredits } from '@ridgeway/words'

/** What can be done with a planned course: another term, a pin, taking it out, its credits where they vary, a note. */
const props = defineProps<{
  item: CourseItem
  course: Course
  /** Whether its prerequisite would hold in a term. */
  works: (term: string) => boolean
}>()
const { commands, remove } = usePlan()
const { edit } = commands
const student = useStudentStore()
const catalog = useCatalogStore()
const { today } = useNow()
const entry = computed(() => student.entries.find(one => one.id === props.item.id))
/** The next terms in which the course is offered. */
const places = computed(() =>
  catalog.terms.filter(term => termPhase(term, today.value) === 'future' && isOffered(props.course, term))
    .map(term => ({ term, works: props.works(term.code) })).slice(0, 6),
)
/** Credits to choose from, by whole ones, for a course whose credits vary. */
const amounts = computed(() => {
  const { credits, creditsMax } = props.course
  return creditsMax > credits ? Array.from({ length: (creditsMax - credits) / 100 + 1 }, (_, i) => credits + i * 100) : []
})
const setCredits = (credits: number) =>
  edit([{ kind: 'credits', entry: props.item.id, credits }], `${props.item.course} set to ${sayCredits(credits)}`)
const note = ref('')
watch(() => props.item.id, () => note.value = entry.value?.note ?? '', { immediate: true })
const saveNote = () =>
  note.value !== (entry.value?.note ?? '') && edit([{ kind: 'note', entry: props.item.id, note: note.value }], 'Note kept')
</script>

<template>
  <div>
    <p class="second small">Can stand in</p>
    <p class="moves">
      <ActButton
        v-for="{ term, works: holds } in places"
        :key="term.code"
        :off="term.code === item.term && 'It stands here'"
        :class="{ faint: !holds }"
        :title="holds ? '' : 'its prerequisite would not hold there'"
        @click="edit([{ kind: 'move', entry: item.id, term: term.code }], `${item.course} moved to ${term.name}`)"
      >
        {{ term.name }}
      </ActButton>
    </p>
    <p class="moves">
      <WordLink @click="commands.pin([item.id])">{{ entry?.pinned ? 'Unpin' : 'Pin here' }}</WordLink>
      <WordLink class="blocking" @click="remove([item.id])">Take out of the plan</WordLink>
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
  </div>
</template>

<style scoped>
.amount { max-width: 130px; }
p { margin: 3px 0; }
.moves { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.faint { border-style: dashed; opacity: .75; }
</style>
