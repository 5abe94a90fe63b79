<script setup lang="ts">
import type { Placeholder } from '@ridgeway/core/planning'
import { factsOf } from '@ridgeway/core/record'
import { type Candidate, findCandidates } from '@ridgeway/core/requirements'
import { describeLine, formatCredits, sayCredits, sayCandidate } from '@ridgeway/words'

/** A place still to choose: what could stand here, soonest fit first, and how many credits it holds. */
const props = defineProps<{ place: Placeholder }>()
const emit = defineEmits<{ close: [] }>()
const { commands, remove, choose } = usePlan()
const { edit } = commands
const movable = computed(() => commands.isMovable(props.place.id))
const student = useStudentStore()
const catalog = useCatalogStore()
const requirements = useRequirementsStore()
const line = computed(() => requirements.lineAt(props.place.line))
const term = computed(() => catalog.term(props.place.term))
const found = computed(() =>
  term.value && line.value
    ? findCandidates({
        line: line.value,
        workingTerm: term.value,
        terms: [term.value],
        rules: student.rules,
        facts: factsOf(student.state!.file, student.standing!.items),
      })
    : { now: [], later: [], blocked: [] },
)
const all = ref(false)
/** Courses that are shown before the others are asked for. */
const MOST = 12
const visible = (list: readonly Candidate[]) => all.value ? list : list.slice(0, MOST)
const note = ref('')
watch(() => props.place.id, () => note.value = props.place.note, { immediate: true })
const saveNote = () =>
  note.value !== props.place.note && edit([{ kind: 'note', entry: props.place.id, note: note.value }], 'Note kept')
const amounts = [1, 2, 3, 4, 5, 6].map(n => ({ value: n * 100, title: String(n) }))
const setCredits = (credits: number) => edit([{ kind: 'credits', entry: props.place.id, credits }], 'Credits of the place set')
</script>

<template>
  <SidePanel :title="`To choose: ${line?.title ?? place.line}`" :about="place.id" @close="emit('close')">
    <div class="parts">
      <div>
        <p>{{ line ? describeLine(line.rule) : '' }}</p>
        <p class="second">
          {{ sayCredits(place.credits) }} are held for it in {{ term?.name }}. The line stays open until a course takes this
          place.
        </p>
        <template v-if="movable">
          <p class="row">
            <v-select class="amount" label="Credits held" :model-value="place.credits" :items="amounts" @update:model-value="setCredits" />
            <WordLink class="blocking" @click="remove([place.id])">Take this place out</WordLink>
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
      <div>
        <p class="second small">You can take in {{ term?.name }}: {{ found.now.length }}</p>
        <ul>
          <li v-for="candidate in visible(found.now)" :key="candidate.course.code">
            <ActButton :off="!movable && 'The plan cannot be changed here'" @click="choose(candidate.course.code)">
              {{ candidate.course.code }}
            </ActButton>
            {{ candidate.course.title }}
            <span class="second small">{{ formatCredits(candidate.course.credits) }} cr, {{ sayCandidate(candidate) }}</span>
          </li>
        </ul>
        <RestLink v-model="all" :rest="found.now.length - MOST" />
        <p v-if="found.now.length === 0">Nothing that fits this line can be taken then. Move the place to another term.</p>
        <p v-if="found.blocked.length" class="second small">
          Needs something first:
          {{
            found.blocked
              .map(candidate => candidate.course.code)
              .slice(0, 10)
              .join(', ')
          }}
        </p>
      </div>
    </div>
  </SidePanel>
</template>

<style scoped>
.amount { max-width: 130px; }
.parts { display: grid; grid-template-columns: 1fr 1.6fr; gap: 24px; }
p { margin: 3px 0; }
.row { display: flex; gap: 8px; align-items: center; }
ul { list-style: none; padding: 0; margin: 4px 0; columns: 2; }
li { margin-bottom: 5px; break-inside: avoid; }
@media (max-width: 800px) { .parts { grid-template-columns: 1fr; gap: 8px; } ul { columns: 1; } }
</style>
