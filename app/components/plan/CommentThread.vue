<script setup lang="ts">
import { settleThread } from '#shared/contract/acts/advising'
import type { PlanComment } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

/** What student and advisor wrote about a course, a term or the plan, and a line to answer. */
const props = defineProps<{ entry?: string | null, term?: string | null }>()
const student = useStudentStore()
const plans = usePlansStore()
const busy = ref(false)
const problem = ref<Problem | null>(null)
const mine = computed(() =>
  student.state?.comments.filter(comment => comment.entry === (props.entry ?? null) && comment.term === (props.term ?? null)) ?? [],
)
const session = useSessionStore()
const settledBy = computed(() => mine.value.at(-1)?.settledBy ?? '')
async function settle(settled: boolean) {
  problem.value = await student.act(settleThread, { entry: props.entry ?? null, term: props.term ?? null, settled })
  if (!problem.value) announce(settled ? 'The comments are settled.' : 'The comments are open again.')
}
/** New for who looks, or read by the other side. */
const newAtFirst = new Set(student.unread.map(one => one.id))
function markOf({ id, author }: PlanComment): string {
  const me = session.account?.id ?? 0
  if (author !== me) return newAtFirst.has(id) ? ' · new' : ''
  return Object.entries(student.state?.read ?? {}).some(([person, upTo]) => Number(person) !== me && upTo >= id) ? ' · read' : ''
}
watch(mine, now => now.length > 0 && void student.markRead(now.at(-1)!.id), { immediate: true })

/** Each thread has its own unsent words. */
const key = computed(() => [student.state?.id, student.state?.plan.id, props.entry ?? '', props.term ?? ''].join(' '))
const text = computed({ get: () => plans.unsent[key.value] ?? '', set: words => plans.unsent[key.value] = words })
watch(key, () => problem.value = null)
async function send() {
  if (!text.value.trim() || busy.value) return
  // What it is about is what it was about when it was sent, whatever is turned to meanwhile.
  const [about, words] = [key.value, text.value]
  busy.value = true
  const failed = await plans.comment({ entry: props.entry ?? null, term: props.term ?? null }, words)
  busy.value = false
  if (!failed && plans.unsent[about] === words) plans.unsent[about] = ''
  if (about === key.value) problem.value = failed
}
</script>

<template>
  <section class="thread" aria-label="Comments">
    <p class="second small">
      Comments{{ settledBy ? `, settled by ${settledBy}` : '' }}
      <WordLink v-if="mine.length && student.mayEdit" class="small" @click="settle(!settledBy)">
        {{ settledBy ? 'open again' : 'settled' }}
      </WordLink>
    </p>
    <p v-for="comment in mine" :key="comment.id" :class="{ second: settledBy }">
      <b>{{ comment.name }}</b> <span class="second small">{{ longDate(student.localDate(comment.at)) }}{{ markOf(comment) }}</span><br />{{
        comment.text
      }}
    </p>
    <FailedBox v-if="problem" :problem="problem" />
    <form v-if="student.mayEdit" @submit.prevent="send">
      <v-text-field v-model="text" label="Write a comment" maxlength="1000" />
      <ActButton type="submit" :busy="busy" :off="!text.trim() && 'Write something first'">Send</ActButton>
    </form>
  </section>
</template>

<style scoped>
p { margin: 3px 0; }
form { display: flex; gap: 8px; align-items: center; margin-top: 4px; }
</style>
