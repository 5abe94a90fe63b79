<script setup lang="ts">
import type { Term } from '@ridgeway/core/catalog'
import { formatCredits } from '@ridgeway/words'

/** The foot of the board: what each term comes to, against its cap, and what is wrong with it. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const { board, columns, showsEarlier, ofTerm, goTo } = usePlan()
function sayLoad(term: Term): string {
  const load = board.load(term.code)!
  const cap = formatCredits(student.state!.file.capRaised[term.code] ?? term.loadCap)
  return load.overCap ? `over the cap of ${cap}` : `${load.status}, cap ${cap}`
}
</script>

<template>
  <div role="row">
    <div class="lane-head foot" role="rowheader"><span class="strong">Load</span></div>
    <div v-if="showsEarlier" class="cell foot small second" role="gridcell">{{ formatCredits(student.standing!.earned) }} cr earned</div>
    <div
      v-for="term in columns"
      :key="term.code"
      class="cell foot small"
      role="gridcell"
      :data-foot="term.code"
      :class="{ working: term.code === workingTerm.code }"
    >
      <template v-if="board.load(term.code)?.credits">
        <span class="strong">{{ formatCredits(board.load(term.code)!.credits) }} cr · {{ board.load(term.code)!.hours }} h</span>
        <span :class="board.load(term.code)!.overCap ? 'blocking strong' : 'second'">{{ sayLoad(term) }}</span>
      </template>
      <WordLink v-if="ofTerm(term.code).length" class="small blocking" @click="goTo(ofTerm(term.code)[0]!)">
        {{ count(ofTerm(term.code).length, 'problem') }}<span class="visually-hidden"> in {{ term.name }}</span>
      </WordLink>
    </div>
  </div>
</template>

<style scoped>
.foot { min-height: 44px; gap: 1px; }
.lane-head.foot { border-left-color: transparent; }
</style>
