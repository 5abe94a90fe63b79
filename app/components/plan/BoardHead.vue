<script setup lang="ts">
import type { Term } from '@ridgeway/core/catalog'
import { formatCredits } from '@ridgeway/words'

/** The terms across the top: each opens what there is to say about it. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const { board, columns, isPhone, isWide, showsEarlier, panel } = usePlan()
const isWorking = (term: Term) => term.code === workingTerm.code
const foldsAt = (term: Term) => term === board.pastColumns.value[0] && !isPhone.value
const sayWorking = computed(() => isWide.value ? ' · working' : ' · working term')
const nameOf = (term: Term) => isWide.value && term.season === 'summer' ? `Summer ${String(term.year).slice(2)}` : term.name
</script>

<template>
  <div role="row">
    <div class="corner" role="columnheader"><span class="visually-hidden">Lane</span></div>
    <div v-if="showsEarlier" class="col-head" role="columnheader">
      <WordLink @click="board.showPast.value = true">earlier ▸</WordLink>
    </div>
    <div v-for="term in columns" :key="term.code" class="col-head" role="columnheader" :class="{ working: isWorking(term) }">
      <WordLink v-if="foldsAt(term)" aria-label="Fold earlier terms" @click="board.showPast.value = false">◂</WordLink>
      <WordLink
        class="term-name"
        :data-term-head="term.code"
        :title="`About ${term.name}`"
        @click="panel = { kind: 'term', id: term.code }"
      >
        {{ nameOf(term) }}
      </WordLink>
      <span v-if="student.plan.wishes.termsOff.includes(term.code)" class="small"> off</span>
      <span v-if="student.plan.termNotes[term.code]" class="small" :title="student.plan.termNotes[term.code]"> ✎</span>
      <br /><span class="second head-load"
        >{{ formatCredits(board.load(term.code)?.credits ?? 0) }} cr{{ isWorking(term) ? sayWorking : '' }}</span
      >
    </div>
  </div>
</template>

<style scoped>
.corner { position: sticky; left: 0; background: var(--surface); z-index: 2; }
.term-name { color: inherit; font-weight: inherit; }
.head-load { font-weight: 400; }
</style>
