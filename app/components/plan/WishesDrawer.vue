<script setup lang="ts">
import { termPhase } from '@ridgeway/core/catalog'
import type { Wishes } from '@ridgeway/core/planning'
import { formatCredits, sayCredits } from '@ridgeway/words'

/** What the student wishes for the terms ahead, how fast it goes, and the note on the plan as a whole. */
const emit = defineEmits<{ close: [] }>()
const { commands: { edit } } = usePlan()
const student = useStudentStore()
const catalog = useCatalogStore()
const { today } = useNow()
const wishes = computed(() => student.plan.wishes)
const ahead = computed(() => catalog.terms.filter(term => termPhase(term, today.value) === 'future'))
const termChoices = computed(() => ahead.value.map(term => ({ value: term.code, title: term.name })))
const set = (change: Partial<Wishes>, what: string) => edit([{ kind: 'wishes', wishes: { ...wishes.value, ...change } }], what)
const note = ref('')
watch(() => student.plan.note, now => note.value = now, { immediate: true })
const saveNote = () => note.value !== student.plan.note && edit([{ kind: 'plan note', note: note.value }], 'Note on the plan kept')
const pace = computed(() => student.pace)
/** The pace that is wished for, else the one so far. */
const guess = computed(() => wishes.value.target ?? pace.value?.soFar ?? null)
</script>

<template>
  <SidePanel title="Wishes and pace" @close="emit('close')">
    <div class="parts">
      <div class="fields">
        <h3>Wishes</h3>
        <v-select
          :model-value="wishes.target"
          :items="[
            { value: null, title: 'no wish' },
            ...[6, 9, 12, 13, 14, 15, 16, 17, 18].map(n => ({ value: n * 100, title: `${n} credits` })),
          ]"
          label="Credits in a term"
          density="compact"
          hide-details
          variant="outlined"
          :readonly="!student.mayEdit"
          @update:model-value="
            set({ target: $event }, $event ? `You wish for ${sayCredits($event)} in a term` : 'No wish for credits in a term')
          "
        />
        <v-select
          :model-value="wishes.latestFinish"
          :items="[{ value: null, title: 'no wish' }, ...termChoices]"
          label="Finish by"
          :readonly="!student.mayEdit"
          @update:model-value="set({ latestFinish: $event }, 'Latest finish set')"
        />
        <v-select
          :model-value="wishes.termsOff"
          :items="termChoices"
          label="Terms off"
          multiple
          :readonly="!student.mayEdit"
          @update:model-value="set({ termsOff: $event }, 'Terms off set')"
        />
      </div>
      <div>
        <h3>Pace</h3>
        <p v-if="pace">
          <b>{{ sayCredits(pace.creditsLeft) }}</b> are still to be taken<template v-if="pace.asked !== null"
            >: about <b>{{ formatCredits(pace.asked) }} in each</b> of {{ count(pace.termsLeft!, 'term') }} of fall and spring until the
            {{ wishes.latestFinish ? 'finish you wish for' : 'planned finish' }}</template
          >.
        </p>
        <p v-if="pace && pace.asked === null && pace.creditsLeft > 0 && guess" class="second">
          At {{ formatCredits(guess) }} credits a term that is {{ count(Math.ceil(pace.creditsLeft / guess), 'term') }} of fall and
          spring. Say by when you want to finish, or draft the rest, to see what each term must bring.
        </p>
        <p v-if="pace?.soFar" class="second">
          So far it was {{ formatCredits(pace.soFar) }} credits a term on average.
          {{ pace.asked !== null && pace.asked > pace.soFar + 200 ? 'The rest asks for a faster pace than that.' : '' }}
        </p>
        <p class="second small">Summers bring credits, and are not counted as terms.</p>
      </div>
      <div>
        <v-textarea
          v-model="note"
          label="Note on the plan"
          rows="3"
          maxlength="2000"
          :readonly="!student.mayEdit"
          @blur="saveNote"
        />
        <CommentThread />
      </div>
    </div>
  </SidePanel>
</template>

<style scoped>
.parts { display: grid; grid-template-columns: 1fr 1fr 1.2fr; gap: 24px; }
.fields { display: grid; gap: 9px; align-content: start; }
p { margin: 4px 0; }
@media (max-width: 800px) { .parts { grid-template-columns: 1fr; gap: 8px; } }
</style>
