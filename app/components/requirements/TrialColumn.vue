<script setup lang="ts">
import type { CourseItem } from '@ridgeway/core/catalog'
import { formatCredits, sayCredits, sayLost, sayWhy, termName } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** One program of the comparison: when it could be finished, what carries over, what is open and what is lost. */
const props = defineProps<
  { programId: string, choices: { value: string, title: string }[], held: boolean, wished: string[], removable: boolean }
>()
defineEmits<{ choose: [id: string], remove: [] }>()
const student = useStudentStore()
const requirements = useRequirementsStore()
const { doneOf } = useItems()

const trial = computed(() => requirements.trial(props.programId))
const areas = computed(() => trial.value?.report.areas.filter(area => area.open > 0) ?? [])
const hueOf = (item: CourseItem) =>
  trial.value?.report.areas.find(area => area.lines.some(line => line.uses.some(use => use.item.id === item.id)))?.hue
const lost = computed(() =>
  Object.entries(trial.value?.unreachable ?? {}).map(([id, lost]) => ({
    title: requirements.allLines(trial.value!.report).find(line => line.id === id)?.title ?? id,
    words: sayLost(lost),
  })),
)
const finish = computed(() => {
  const found = trial.value?.finish
  if (!found) return { term: '', why: '' }
  if (found.decidedBy === 'unreachable')
    return { term: 'not without an exception', why: 'Something cannot be reached any more; see below.' }
  if (found.decidedBy === 'nothing left') return { term: 'nothing left to take', why: 'Once what is under way is passed.' }
  return { term: termName(found.term!),
    why: found.decidedBy === 'chain'
      ? 'Decided by the longest chain:'
      : `Decided by ${sayCredits(found.creditsLeft)} that are left, with every term filled to its cap.` }
})

const asking = ref(false)
const note = ref('')
const busy = ref(false)
const problem = ref<Problem | null>(null)
async function ask() {
  busy.value = true
  problem.value = await requirements.askChange(props.wished, note.value)
  busy.value = false
  if (!problem.value) asking.value = false
}
</script>

<template>
  <section v-if="trial" class="card trial" :aria-label="requirements.title(programId)">
    <div class="head">
      <v-select
        :model-value="programId"
        :items="choices"
        label="Program and catalog year"
        @update:model-value="$emit('choose', $event)"
      />
      <WordLink v-if="removable" class="small" @click="$emit('remove')">Remove</WordLink>
    </div>
    <p class="full-title">
      <b>{{ requirements.title(programId) }}</b>
    </p>
    <p v-if="held" class="second small">{{ student.isOwn ? 'You are' : `${student.state!.name} is` }} in this program.</p>
    <dl>
      <dt>Earliest finish</dt>
      <dd>
        <span class="big" data-finish>{{ finish.term }}</span>
        <p class="small second">
          {{ finish.why
          }}<template v-if="trial.finish.chain.length"
            >&nbsp;<b>{{ trial.finish.chain.join(' → ') }}</b
            ><template v-if="trial.finish.waitsFor"
              >, where {{ trial.finish.chain[0] }} waits for {{ sayWhy(trial.finish.waitsFor) }}</template
            ></template
          >
        </p>
      </dd>
      <dt>Carries over</dt>
      <dd>
        <span class="big" data-carries>{{ formatCredits(trial.carriesOver.credits) }} cr</span> <span
          class="second">in {{ count(trial.carriesOver.items.length, 'course') }}</span>
        <div class="blocks">
          <CourseBlock
            v-for="item in trial.carriesOver.items"
            :key="item.id"
            compact
            :code="item.course"
            :state="item.state"
            :hue="hueOf(item)"
            :corner="item.grade ?? ''"
            :done="doneOf(item)"
          />
        </div>
      </dd>
      <dt>Open</dt>
      <dd>
        <span class="big" data-open>{{ formatCredits(trial.open) }} cr</span>
        <ul class="small">
          <li v-for="area in areas" :key="area.id">
            {{ area.title }} <span class="second">{{ formatCredits(area.open) }} of {{ formatCredits(area.needed) }} cr</span>
          </li>
        </ul>
        <p v-if="trial.overlaysOpen.length" class="small second">
          and to be carried by one of these: {{ trial.overlaysOpen.join(', ') }}
        </p>
      </dd>
      <dt>Credits lost</dt>
      <dd>
        <span class="big" data-lost>{{ formatCredits(trial.lost.credits) }} cr</span> <span
          v-if="trial.lost.items.length" class="second small">no line has room for them</span>
        <div class="blocks">
          <CourseBlock
            v-for="item in trial.lost.items"
            :key="item.id"
            compact
            off-path
            :code="item.course"
            :state="item.state"
            :corner="item.grade ?? ''"
            :done="doneOf(item)"
          />
        </div>
      </dd>
      <template v-if="lost.length">
        <dt class="blocking">Cannot be reached</dt>
        <dd>
          <p v-for="one in lost" :key="one.title" class="small">
            <b>{{ one.title }}.</b> {{ one.words }}
          </p>
        </dd>
      </template>
    </dl>
    <template v-if="student.isOwn && !held">
      <ActButton v-if="!asking" @click="asking = true">Ask for this change</ActButton>
      <form v-else class="ask" @submit.prevent="ask">
        <p class="small">
          You would then be in: <b>{{ wished.map(requirements.title).join(', ') }}</b>. Your plan stays as it is.
        </p>
        <v-text-field v-model="note" label="A word to your advisor" maxlength="500" />
        <FailedBox v-if="problem" :problem="problem" />
        <ActButton weight="full" type="submit" :busy="busy">Send to {{ student.state!.advisor?.name ?? 'the advisor' }}</ActButton>
        <WordLink class="small" @click="asking = false">Do not ask</WordLink>
      </form>
    </template>
  </section>
</template>

<style scoped>
.trial { padding: 12px 14px; }
.head { display: flex; gap: 10px; align-items: center; }
dl { margin: 8px 0; display: grid; grid-template-columns: 108px 1fr; gap: 0 10px; }
dt { color: var(--second); padding: 8px 0; border-top: 1px solid var(--line-soft); }
dd { margin: 0; padding: 8px 0; border-top: 1px solid var(--line-soft); min-width: 0; }
.big { font-size: 17px; font-weight: 700; }
p { margin: 3px 0; }
ul { margin: 4px 0 0; padding-left: 16px; }
.blocks { display: flex; flex-wrap: wrap; gap: 4px; margin-top: 5px; }
.blocks > * { width: 90px; }
.ask { display: grid; gap: 7px; justify-items: start; }
.ask .v-text-field { width: 100%; }
</style>
