<script setup lang="ts">
import { formatCredits, sayMoment, shortTermName } from '@ridgeway/words'
import { cancelWork } from '#shared/contract/acts/college'
import { type Everybody, workOutProgress } from '#shared/contract/acts/office'
import { readWork } from '#shared/contract/views/college'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

/** When everybody finishes as they plan it: worked out when it is asked for, file by file, and looked at by program. */
const catalog = useCatalogStore()
const found = shallowRef<Everybody | null>(null)
const problem = ref<Problem | null>(null)
/** What goes on is known by this name, to whichever server is asked; empty while nothing does. */
const work = ref('')
const far = shallowRef<{ done: number, total: number } | null>(null)
useIntervalFn(async () => {
  if (work.value) far.value = (await look(readWork, { id: work.value }).catch(() => null))?.work ?? far.value
}, 500)
async function begin() {
  problem.value = null
  far.value = null
  const mine = work.value = crypto.randomUUID()
  try {
    const { answer } = await call(workOutProgress, { work: mine })
    found.value = answer
    announce(`${count(answer.students.length, 'student')} worked out.`)
  }
  catch (error) {
    const told = toProblem(error)
    if (told.code !== 'work-cancelled') problem.value = told
  }
  work.value = ''
}
const cancel = () => void call(cancelWork, { id: work.value }).catch(error => problem.value = toProblem(error))
onBeforeUnmount(() => work.value && cancel())
const session = useSessionStore()
const about = computed(() => found.value
  ? [`${count(found.value.students.length, 'student')}, as of ${sayMoment(found.value.at, session.zone)}`,
      `${count(found.value.fresh, 'file')} read anew`].join('; ')
  : 'when everybody finishes, as they plan it')
const termOf = (code: string) => {
  const term = catalog.term(code)
  return term ? shortTermName(term) : code
}
</script>

<template>
  <div class="page">
    <PageHead title="Progress of everybody" :about="about"><WordLink to="/office/people">People</WordLink></PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="begin" />
    <section class="card begin" aria-label="Work it out">
      <LongWork
        v-if="work"
        label="Working out every file"
        :stage="far?.total ? `${far.done} of ${count(far.total, 'file')}` : 'beginning …'"
        :share="far?.total ? far.done / far.total : null"
        @cancel="cancel"
      />
      <template v-else>
        <p class="second">
          Every file is read as its student sees it: requirements, plan and checks. With twenty thousand students it takes a few
          minutes the first time, and after that as long as the files that changed; people are served meanwhile. Nothing is changed.
        </p>
        <ActButton :main="!found" @click="begin">{{ found ? 'Work it out anew' : 'Work it out' }}</ActButton>
      </template>
    </section>
    <ProgressTable v-if="found" :found="found" :term-of="termOf" :credits-of="formatCredits" />
  </div>
</template>

<style scoped>
.begin { padding: 12px 16px; margin: 0 0 12px; display: grid; gap: 8px; justify-items: start; }
p { margin: 0; max-width: 70ch; }
</style>
