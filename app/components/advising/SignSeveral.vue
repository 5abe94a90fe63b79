<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'
import { signOff } from '#shared/contract/acts/student'
import { call, toProblem } from '~/composables/useApi'

/** Plans without problems signed off one after the other, each listed with what is signed; who changes meanwhile is left and named. */
const open = defineModel<boolean>({ required: true })
const advising = useAdvisingStore()
const workingTerm = useWorkingTermStore()
const ready = computed(() => advising.advisees?.filter(isReady) ?? [])
const chosen = ref<number[]>([])
/** Those who ask for it are chosen at first. */
watch(open, now => now && (chosen.value = ready.value.filter(row => row.asked).map(row => row.id)))
const running = ref(false)
const done = ref<{ name: string, problem: string }[]>([])
const left = computed(() => ready.value.filter(row => chosen.value.includes(row.id)))
let stopped = false
async function sign() {
  running.value = true
  stopped = false
  done.value = []
  for (const row of left.value) {
    if (stopped) break
    try {
      await call(signOff, { term: workingTerm.code, note: '', seen: row.planned }, { id: row.id })
      done.value = [...done.value, { name: row.name, problem: '' }]
    }
    catch (error) {
      done.value = [...done.value, { name: row.name, problem: toProblem(error).title }]
    }
  }
  running.value = false
  announce(`${count(done.value.filter(one => !one.problem).length, 'term')} signed off.`)
  chosen.value = []
  await advising.load()
}
const stop = () => stopped = true
const toggle = (id: number) => chosen.value = chosen.value.includes(id) ? chosen.value.filter(one => one !== id) : [...chosen.value, id]
</script>

<template>
  <AskDialog
    v-model="open"
    :title="`Sign off ${workingTerm.term?.name} for several`"
    :act="`Sign off ${left.length}`"
    :busy="running"
    :off="!left.length && 'Choose whom to sign off'"
    @act="sign"
  >
    <p class="second small">
      Plans of the term with no problem in it. What stands here is what is signed; a plan that changed since is left.
    </p>
    <div v-if="running" role="status">
      {{ done.length }} of {{ done.length + left.length }} · <WordLink @click="stop">Stop here</WordLink>
    </div>
    <ul v-if="done.length" class="done small">
      <li v-for="one in done" :key="one.name" :class="{ blocking: one.problem }">{{ one.name }}: {{ one.problem || 'signed off' }}</li>
    </ul>
    <p v-if="!ready.length">Nobody can be signed off in one go now.</p>
    <div class="several">
      <v-checkbox
        v-for="row in ready"
        :key="row.id"
        :model-value="chosen.includes(row.id)"
        @update:model-value="toggle(row.id)"
      >
        <template #label>
          <span
            ><b>{{ row.name }}</b>{{ row.asked ? ', asked' : '' }}<br /><span class="second small"
              >{{ row.planned.map(one => one.course).join(', ') }} ·
              {{ formatCredits(row.planned.reduce((sum, one) => sum + one.credits, 0)) }} cr</span
            ></span
          >
        </template>
      </v-checkbox>
    </div>
  </AskDialog>
</template>

<style scoped>
p { margin: 0; }
.several { max-height: 46vh; overflow: auto; }
.done { margin: 0; padding-left: 18px; }
</style>
