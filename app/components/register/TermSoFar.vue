<script setup lang="ts">
import { formatCredits, sayFinding } from '@ridgeway/words'

/** What is registered in the working term and what is waited for, each with what can be done about it. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { instant } = useNow()
const { hueOfCourse } = useItems()
const { registered } = useRunSheet()
const { problem, busy, refused, accept, leave } = useChanges()
const waits = computed(() => student.state!.waitlisted.map((wait) => {
  const left = wait.offerUntil ? timeLeft(instant.value, wait.offerUntil) : ''
  return { ...wait, offered: left !== '', words: left ? `seat offer, ${left} left` : `waitlist, place ${wait.place}` }
}))
const refusals = computed(() => refused.value?.findings.filter(finding => !finding.ok).map(finding => sayFinding(finding).words) ?? [])
const about = ref('')
const leaving = ref(false)
const exchanging = ref(false)
function ask(course: string, what: 'leave' | 'exchange') {
  about.value = course
  if (what === 'leave') leaving.value = true
  else exchanging.value = true
}
</script>

<template>
  <section aria-labelledby="so-far">
    <h2 id="so-far">This term so far</h2>
    <p v-if="registered.length + waits.length === 0" class="second">Nothing is registered yet.</p>
    <FailedBox v-if="problem" :problem="problem" />
    <p v-if="refusals.length" class="blocking" role="alert">
      The seat is still held for you, and nothing is changed: {{ refusals.join(' ') }}
    </p>
    <ul aria-label="Registered and waited for">
      <li v-for="row in registered" :key="row.course">
        <CourseBlock
          :code="`${row.course}-${row.labels.join(' + ')}`"
          :title="`registered ${toLocal(row.at, session.zone).toFormat('d LLL, HH:mm')}`"
          state="registered"
          :hue="hueOfCourse(row.course, workingTerm.code)"
          :corner="`${formatCredits(row.credits)} cr`"
        />
        <p v-if="student.isOwn" class="small acts">
          <WordLink class="small" :aria-label="`Exchange ${row.course}`" @click="ask(row.course, 'exchange')">exchange …</WordLink>
          <WordLink class="small" :aria-label="`Give up ${row.course}`" @click="ask(row.course, 'leave')">give up …</WordLink>
        </p>
      </li>
      <li v-for="wait in waits" :key="wait.section">
        <CourseBlock
          :code="`${wait.course}-${wait.label}`"
          :title="wait.words"
          state="waitlist"
          :hue="hueOfCourse(wait.course, workingTerm.code)"
        />
        <p v-if="student.isOwn" class="small acts">
          <ActButton v-if="wait.offered" :busy="busy" @click="accept(wait.id, wait.course)">Take the seat in {{ wait.course }}</ActButton>
          <WordLink
            class="small"
            :aria-label="wait.offered ? `Let the seat in ${wait.course} go` : `Leave the waitlist of ${wait.course}`"
            @click="leave(wait.id, wait.course)"
          >
            {{ wait.offered ? 'let it go' : 'leave the waitlist' }}
          </WordLink>
        </p>
      </li>
    </ul>
    <LeaveDialog v-model="leaving" :course="about" />
    <ExchangeDialog v-model="exchanging" :course="about" />
  </section>
</template>

<style scoped>
h2 { margin: 14px 0 6px; }
p { margin: 2px 0; }
ul { list-style: none; padding: 0; margin: 0; display: flex; flex-wrap: wrap; gap: 10px; }
li { width: 230px; }
.acts { display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; }
@media (max-width: 800px) { li { width: 100%; } }
</style>
