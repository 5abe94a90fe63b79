<script setup lang="ts">
/** The same record read against other programs, up to three side by side. Nothing is changed by looking. */
const student = useStudentStore()
const requirements = useRequirementsStore()
const route = useRoute()
const router = useRouter()
const MOST = 3

const held = computed(() => student.state?.programIds ?? [])
const fromAddress = String(route.query.with ?? '').split(',').filter(id => requirements.choices.some(choice => choice.value === id)).slice(
  0,
  MOST,
)
const first = held.value[0] ?? requirements.choices[0]!.value
const neighbour
  = requirements.choices.find(choice => choice.kind === 'major' && choice.value.replace(/-\d+$/, '') !== first.replace(/-\d+$/, ''))!.value
/** What was asked for is what one wants to see beside the own program. */
const askedFor = student.state?.programChange?.state === 'asked'
  ? student.state.programChange.programs.filter(id => !held.value.includes(id))
  : []
const shown = ref<string[]>(
  fromAddress.length > 0 ? fromAddress : [first, ...(askedFor.length > 0 ? askedFor : [neighbour])].slice(0, MOST),
)
// The comparison has an address, so that it can be sent to the advisor.
watch(shown, ids => router.replace({ query: { with: ids.join(',') } }), { deep: true })

const choicesFor = (id: string) => requirements.choices.filter(choice => choice.value === id || !shown.value.includes(choice.value))
const add = () => shown.value.push(requirements.choices.find(choice => !shown.value.includes(choice.value))!.value)
const change = computed(() => student.state?.programChange)
const problem = ref('')
async function takeBack() {
  problem.value = (await requirements.takeBackChange())?.title ?? ''
}

/** The programs the student would be in: another major takes the place of the one held, a minor or certificate comes to them. */
function wished(id: string): string[] {
  const choice = requirements.choices.find(candidate => candidate.value === id)!
  const code = (other: string) => other.replace(/-\d+$/, '')
  const kindOf = (other: string) => requirements.choices.find(candidate => candidate.value === other)?.kind
  const index = held.value.findIndex(other => code(other) === code(id) || (choice.kind === 'major' && kindOf(other) === 'major'))
  return index < 0 ? [...held.value, id] : held.value.map((other, i) => i === index ? id : other)
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Try another program</h1>
      <span class="second"
        >{{ student.isOwn ? 'Your' : `${student.state!.name}'s` }} record, without the plan, read against each. Nothing changes by
        looking.</span
      >
      <span class="spacer" />
      <ActButton v-if="shown.length < MOST" @click="add">Add a program</ActButton>
      <WordLink :to="`/student/${student.state!.id}/requirements`">Back to requirements</WordLink>
    </div>
    <p v-if="change && change.state !== 'taken back'" class="card change" role="status">
      <template v-if="change.state === 'asked'"
        >Asked for on {{ longDate(student.localDate(change.askedAt)) }}: <b>{{ change.programs.map(requirements.title).join(', ') }}</b>.
        {{ student.state!.advisor?.name ?? 'The advisor' }} has it.
        <WordLink v-if="student.isOwn" @click="takeBack">Take it back</WordLink></template
      >
      <template v-else
        >{{ change.state === 'granted' ? 'Granted' : 'Declined' }}: {{ change.programs.map(requirements.title).join(', ') }}.
        {{ change.words }}</template
      >
      {{ problem }}
    </p>
    <div class="columns" :style="{ '--columns': shown.length }">
      <TrialColumn
        v-for="(id, i) in shown"
        :key="i"
        :program-id="id"
        :choices="choicesFor(id)"
        :held="held.includes(id)"
        :wished="wished(id)"
        :removable="shown.length > 1"
        @choose="shown[i] = $event"
        @remove="shown.splice(i, 1)"
      />
    </div>
  </div>
</template>

<style scoped>
.change { padding: 8px 14px; margin: 0 0 10px; }
.columns { display: grid; grid-template-columns: repeat(var(--columns), minmax(0, 1fr)); gap: 12px; align-items: start; }
@media (max-width: 900px) { .columns { grid-template-columns: 1fr; } }
</style>
