<script setup lang="ts">
import { termPhase } from '@ridgeway/core/catalog'
import type { Draft, DraftWishes } from '@ridgeway/core/planning'
import { formatCredits, sayDraft, sayDraftReason, sayTerm, shortTermName } from '@ridgeway/words'

/** Draft the rest: what is asked, the work with its progress, and up to three drafts to look at on the board before one is taken. */
const emit = defineEmits<{ close: [] }>()
const { commands: { edit } } = usePlan()
const student = useStudentStore()
const catalog = useCatalogStore()
const draft = useDraftStore()
const { today } = useNow()

const ahead = computed(() => catalog.terms.filter(term => termPhase(term, today.value) === 'future'))
const { wishes } = student.plan
const asked = reactive({ load: wishes.target, termsOff: [...wishes.termsOff], latestFinish: wishes.latestFinish,
  summers: 'when needed' as DraftWishes['summers'], around: 'pinned' as DraftWishes['around'] })
const loads = computed(
  () => [{ value: null, title: 'the cap' }, ...[6, 9, 12, 13, 14, 15, 16, 17, 18].map(n => ({ value: n * 100, title: `${n} credits` }))],
)
const finishes = computed(() => [{ value: null, title: 'any time' }, ...ahead.value.map(term => ({ value: term.code, title: term.name }))])
const offChoices = computed(() => ahead.value.map(term => ({ value: term.code, title: term.name })))

const NAMES: Record<Draft['kind'], string> = { soonest: 'Soonest', lighter: 'Lighter terms', suggested: 'By the suggested sequence' }
const drafts = computed(() => draft.result?.kind === 'drafts' ? draft.result.drafts : [])
/** How good the finish is, and how much of that is known. */
function sayProof(one: Draft): string {
  if (one.shortest) return 'The shortest possible'
  if (one.kind === 'soonest') return `May be improved by up to ${count(one.gap, 'term')}: nothing can finish before ${sayTerm(one.bound)}`
  const best = drafts.value[0]!
  const later = count(one.gap, 'term')
  return best.shortest ? `${later} later than the shortest` : `Up to ${later} later than the shortest`
}
const short = (code: string) => shortTermName(catalog.term(code)!)
const highest = computed(() => Math.max(1800, ...drafts.value.flatMap(one => one.loads.map(load => load.credits))))
function take(one: Draft) {
  const { operations } = one
  const what = `Draft taken: ${NAMES[one.kind].toLowerCase()}, ${count(one.placed.length, 'course')} placed${
    one.moved.length ? `, ${one.moved.length} moved` : ''
  }`
  draft.close()
  void edit(operations, what)
  emit('close')
}
function leave() {
  draft.close()
  emit('close')
}
onBeforeUnmount(() => draft.close())
</script>

<template>
  <SidePanel title="Draft the rest" @close="leave">
    <form class="asked" @submit.prevent="draft.run(asked)">
      <v-select v-model="asked.load" :items="loads" label="At most in a term" />
      <v-select
        v-model="asked.termsOff"
        :items="offChoices"
        label="Terms to skip"
        multiple
        placeholder="none"
        persistent-placeholder
      />
      <v-select v-model="asked.latestFinish" :items="finishes" label="Finish by" />
      <v-select
        v-model="asked.summers"
        :items="[
          { value: 'when needed', title: 'only if needed' },
          { value: 'freely', title: 'for anything' },
        ]"
        label="Summers"
      />
      <v-select
        v-model="asked.around"
        :items="[
          { value: 'pinned', title: 'what is pinned' },
          { value: 'placed', title: 'everything placed' },
        ]"
        label="Leave where it is"
      />
      <ActButton weight="full" type="submit" :busy="draft.running">{{ draft.result ? 'Draft again' : 'Draft' }}</ActButton>
    </form>
    <div role="status">
      <LongWork
        v-if="draft.running"
        label="Drafting"
        :share="draft.progress.share"
        :stage="draft.progress.stage"
        @cancel="draft.cancel()"
      />
      <p v-else-if="draft.failed" class="blocking">{{ draft.failed }}</p>
      <p v-else-if="!draft.result" class="second small">
        Fills what is open with courses and terms that keep every rule. You look at the drafts on the board first; nothing changes until
        you take one.
      </p>
      <p v-else-if="draft.result.kind === 'nothing open'">
        Nothing is open: every requirement is covered, and nothing stands in the way.
      </p>
      <p v-else-if="draft.result.kind === 'impossible'">
        <b class="blocking">No draft is possible{{ draft.result.reason.proved ? '' : ', as far as was searched' }}.</b>
        {{ sayDraftReason(draft.result.reason)
        }}<template v-if="'constraints' in draft.result.reason && draft.result.reason.constraints.length">
          Lifting any one of them makes room.</template
        >
      </p>
    </div>
    <ul v-if="drafts.length" class="drafts">
      <li v-for="one in drafts" :key="one.kind" class="one" :class="{ looked: draft.looked === one }">
        <WordLink class="head" :aria-pressed="draft.looked === one" @click="draft.look(one)">
          <b>{{ NAMES[one.kind] }}</b> <span>{{ sayDraft(one) }}</span>
        </WordLink>
        <p class="second small">
          {{ sayProof(one) }}. {{ count(one.placed.length, 'course') }} placed{{
            one.moved.length ? `, ${one.moved.length} moved` : ', none moved'
          }}.
        </p>
        <ol
          class="loads"
          :aria-label="`Credits a term: ${one.loads
            .filter(load => load.credits)
            .map(load => `${sayTerm(load.term)} ${formatCredits(load.credits)}`)
            .join(', ')}`"
        >
          <li v-for="load in one.loads.filter(l => l.credits)" :key="load.term">
            <span class="bar" :style="{ height: `${(load.credits / highest) * 26}px` }" /><span class="small">{{
              formatCredits(load.credits)
            }}</span
            ><span class="small second">{{ short(load.term) }}</span>
          </li>
        </ol>
        <ActButton v-if="draft.looked === one" weight="full" @click="take(one)">Take this draft</ActButton>
        <ActButton v-else @click="draft.look(one)">Look at it on the board</ActButton>
      </li>
    </ul>
  </SidePanel>
</template>

<style scoped>
.asked { padding-top: 6px;
  display: grid; grid-template-columns: repeat(5, minmax(110px, 1fr)) auto; gap: 10px; align-items: center;
}
p { margin: 5px 0; }
.drafts {
  list-style: none; padding: 0; margin: 6px 0 0; display: grid;
  grid-template-columns: repeat(auto-fit, minmax(290px, 1fr)); gap: 12px;
}
.one { border: 1px solid var(--line); border-radius: 7px; padding: 8px 12px; }
.looked { border-color: var(--act); box-shadow: inset 0 0 0 1px var(--act); }
.head { color: var(--ink); font-weight: 400; }
.head :deep(.v-btn__content) { display: grid; }
.loads { list-style: none; padding: 0; margin: 5px 0 8px; display: flex; gap: 6px; align-items: flex-end; }
.loads li { display: grid; justify-items: center; line-height: 1.2; min-width: 26px; }
.bar { width: 16px; background: var(--act-tint); border: 1px solid color-mix(in srgb, var(--act) 60%, transparent); border-bottom: 0; }
@media (max-width: 900px) { .asked { grid-template-columns: 1fr 1fr; padding-right: 0; } }
</style>
