<script setup lang="ts">
import { chanceOf, type WaitedBefore } from '@ridgeway/core/registration'
import { joinWords } from '@ridgeway/words'
import { decideOffer } from '#shared/contract/acts/student'
import type { StudentState } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

/** One place on a waitlist: where it stands, how it went for others there, what happens when a seat is offered. */
const { wait } = defineProps<{ wait: StudentState['waitlisted'][number] }>()
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const { instant } = useNow()
const { hueOfCourse } = useItems()
const { registered } = useRunSheet()
const { busy, accept, leave } = useTheChanges()
const problem = ref<Problem | null>(null)
const deciding = ref(false)
const left = computed(() => wait.offerUntil ? timeLeft(instant.value, wait.offerUntil) : '')
const words = computed(() => left.value ? `seat offer, ${left.value} left` : `waitlist, place ${wait.place}`)
const chance = computed(() => chanceOf(wait.place, wait.before as WaitedBefore[]))
const decided = computed(() => wait.exchange === null
  ? 'When a seat is offered, you are asked.'
  : wait.exchange.length > 0
    ? `When a seat is offered, it replaces ${joinWords(wait.exchange, 'and')}.`
    : 'When a seat is offered, it is registered at once.')
const ASK = 'ask'
const choice = ref<string>(ASK)
watch(deciding, () => choice.value = wait.exchange === null ? ASK : wait.exchange.join() || 'beside')
const choices = computed(() => [{ value: ASK, title: 'Ask me; the seat is held while I decide' },
  { value: 'beside', title: 'Register it at once, beside all the rest' },
  ...registered.value.map(row => ({ value: row.course, title: `Register it at once, in place of ${row.course}` }))])
async function decide() {
  problem.value = await student.act(decideOffer, { term: workingTerm.code, entry: wait.id,
    exchange: choice.value === ASK ? null : choice.value === 'beside' ? [] : choice.value.split(',') })
  if (!problem.value) deciding.value = false
}
</script>

<template>
  <CourseBlock
    :code="`${wait.course}-${wait.label}`"
    :title="words"
    state="waitlist"
    :hue="hueOfCourse(wait.course, workingTerm.code)"
  />
  <p v-if="!left && chance" class="small second">
    Of {{ chance.of }} who stood there or further back in earlier terms, {{ chance.offered }} {{ chance.offered === 1 ? 'was' : 'were' }}
    offered a seat.
  </p>
  <p v-if="!left" class="small second">{{ decided }}</p>
  <p v-if="student.isOwn" class="small acts">
    <ActButton v-if="left" :busy="busy" @click="accept(wait.id, wait.course)">Take the seat in {{ wait.course }}</ActButton>
    <WordLink v-else class="small" :aria-label="`Decide what an offer of ${wait.course} does`" @click="deciding = true">
      decide now …
    </WordLink>
    <WordLink
      class="small"
      :aria-label="left ? `Let the seat in ${wait.course} go` : `Leave the waitlist of ${wait.course}`"
      @click="leave(wait.id, wait.course)"
    >
      {{ left ? 'let it go' : 'leave the waitlist' }}
    </WordLink>
  </p>
  <AskDialog v-model="deciding" :title="`When a seat in ${wait.course} is offered`" act="Keep it so" @act="decide">
    <FailedBox v-if="problem" :problem="problem" />
    <v-radio-group v-model="choice" aria-label="What an offer does">
      <v-radio v-for="one in choices" :key="one.value" :value="one.value" :label="one.title" />
    </v-radio-group>
    <p class="small second">All rules are checked again then. Where they refuse it, the seat is held and you are asked.</p>
  </AskDialog>
</template>

<style scoped>
p { margin: 2px 0; }
.acts { display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; }
</style>
