<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'
import { removeNote, writeNote } from '#shared/contract/acts/advising'
import type { Problem } from '~/composables/useApi'

/** Notes about the student: shared with them, or only for those who advise. */
const student = useStudentStore()
const advising = useAdvisingStore()
const session = useSessionStore()
const text = ref('')
const shared = ref(false)
const ofMeeting = ref(true)
const busy = ref(false)
const problem = ref<Problem | null>(null)
const SEEN_BY = [{ value: false, title: 'for those who advise' }, { value: true, title: 'shared with the student' }]
/** Notes that are shown before the earlier ones are asked for. */
const MOST = 8
const notes = computed(() => advising.brief?.notes ?? [])
const showsAll = ref(false)
watch(() => student.state?.id, () => {
  text.value = ''
  showsAll.value = false
})
async function write() {
  if (!text.value.trim()) return
  busy.value = true
  problem.value = await student.act(writeNote, { text: text.value, shared: shared.value,
    meeting: ofMeeting.value ? advising.brief?.met?.id ?? null : null })
  busy.value = false
  if (problem.value) return
  text.value = ''
  announce('The note is kept.')
  await advising.loadBrief(student.state!.id)
}
async function remove(id: number) {
  problem.value = await student.act(removeNote, { id })
  if (!problem.value) await advising.loadBrief(student.state!.id)
}
</script>

<template>
  <section class="card" aria-label="Notes">
    <h2>Notes</h2>
    <FailedBox v-if="problem" :problem="problem" />
    <form @submit.prevent="write">
      <v-textarea v-model="text" label="Write a note" rows="2" auto-grow maxlength="2000" />
      <v-checkbox
        v-if="advising.brief?.met"
        v-model="ofMeeting"
        :label="`Of the meeting on ${sayMoment(advising.brief.met.start, session.zone)}`"
      />
      <span class="row">
        <v-select v-model="shared" :items="SEEN_BY" label="Seen by" />
        <ActButton type="submit" :busy="busy" :off="!text.trim() && 'Write something first'">Keep</ActButton>
      </span>
    </form>
    <div v-for="note in showsAll ? notes : notes.slice(0, MOST)" :key="note.id" class="note">
      <p class="second small">
        {{ sayMoment(note.at, session.zone) }}, {{ note.by }} · {{ note.shared ? 'shared' : 'not for the student'
        }}{{ note.meeting ? ' · after a meeting' : '' }}
        <WordLink v-if="note.author === session.account?.id" class="small" @click="remove(note.id)">remove</WordLink>
      </p>
      <p class="text">{{ note.text }}</p>
    </div>
    <RestLink v-model="showsAll" :rest="notes.length - MOST" are="earlier" less="The latest only" />
  </section>
</template>

<style scoped>
form { display: grid; gap: 6px; margin: 6px 0; }
.row { display: flex; gap: 8px; align-items: center; }
.note { border-top: 1px solid var(--line-soft); padding: 4px 0; }
p { margin: 0; }
.text { white-space: pre-line; }
</style>
