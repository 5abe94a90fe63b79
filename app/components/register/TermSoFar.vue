<script setup lang="ts">
import { formatCredits, sayFinding, sayGrading } from '@ridgeway/words'

/** What is registered in the working term and what is waited for, each with what can be done about it. */
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const { hueOfCourse } = useItems()
const { registered } = useRunSheet()
const { problem, refused } = provideChanges()
const refusals = computed(() => refused.value?.findings.filter(finding => !finding.ok).map(finding => sayFinding(finding).words) ?? [])
const about = ref<string[]>([])
const leaving = ref(false)
const exchanging = ref(false)
const changing = ref(false)
function ask(courses: string[], what: 'leave' | 'exchange' | 'change') {
  about.value = courses
  const dialog = { leave: leaving, exchange: exchanging, change: changing }[what]
  dialog.value = true
}
const acts = [{ what: 'exchange', words: 'exchange …', says: 'Exchange' }, { what: 'change', words: 'change …',
  says: 'Credits and grading of' }, { what: 'leave', words: 'give up …', says: 'Give up' }] as const
</script>

<template>
  <section aria-labelledby="so-far">
    <h2 id="so-far">This term so far</h2>
    <p v-if="registered.length + student.waits.length === 0" class="second">Nothing is registered yet.</p>
    <FailedBox v-if="problem" :problem="problem" />
    <p v-if="refusals.length" class="blocking" role="alert">
      The seat is still held for you, and nothing is changed: {{ refusals.join(' ') }}
    </p>
    <ul aria-label="Registered and waited for">
      <li v-for="row in registered" :key="row.course">
        <CourseBlock
          :code="`${row.course}-${row.labels.join(' + ')}`"
          :title="`registered ${toLocal(row.at, session.zone).toFormat('d LLL, HH:mm')}${
            row.grading === 'letter' ? '' : ` · ${sayGrading(row.grading)}`}`"
          state="registered"
          :hue="hueOfCourse(row.course, workingTerm.code)"
          :corner="`${formatCredits(row.credits)} cr`"
        />
        <p v-if="student.isOwn" class="small acts">
          <WordLink
            v-for="one in acts"
            :key="one.what"
            class="small"
            :aria-label="`${one.says} ${row.course}`"
            @click="ask([row.course], one.what)"
          >
            {{ one.words }}
          </WordLink>
        </p>
      </li>
      <li v-for="wait in student.waits" :key="wait.id"><WaitRow :wait="wait" /></li>
    </ul>
    <p v-if="student.isOwn && registered.length > 1" class="whole">
      <WordLink class="small" @click="ask(registered.map(row => row.course), 'leave')">
        Leave {{ workingTerm.term?.name }} as a whole …
      </WordLink>
    </p>
    <LeaveDialog v-model="leaving" :about="about" />
    <ExchangeDialog v-model="exchanging" :course="about[0] ?? ''" />
    <ChangeDialog v-model="changing" :course="about[0] ?? ''" />
  </section>
</template>

<style scoped>
h2 { margin: 14px 0 6px; }
p { margin: 2px 0; }
ul { list-style: none; padding: 0; margin: 0; display: flex; flex-wrap: wrap; gap: 10px; }
li { width: 230px; }
.acts { display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; }
.whole { margin-top: 8px; }
@media (max-width: 800px) { li { width: 100%; } }
</style>
