<script setup lang="ts">
import { sayLedgerDetail, sayMoment, shortTermName } from '@ridgeway/words'
import { type LedgerRow, readLedger } from '#shared/contract/views/office'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** What happened, the newest first: of everybody, or the story of one student or one section. */
const route = useRoute()
const session = useSessionStore()
const catalog = useCatalogStore()
const number = (name: 'student' | 'section') => {
  const text = route.query[name]
  return typeof text === 'string' && /^\d+$/.test(text) ? Number(text) : undefined
}
const said = (name: 'action' | 'day') => typeof route.query[name] === 'string' ? route.query[name] : undefined
const asked = computed(() => Object.fromEntries(Object.entries({ student: number('student'), section: number('section'),
  action: said('action'), day: said('day') }).filter(([, value]) => value !== undefined)) as
  { student?: number, section?: number, action?: string, day?: string })
const rows = shallowRef<LedgerRow[]>([])
const more = ref(false)
const problem = ref<Problem | null>(null)
const busy = ref(true)
async function load(onward: boolean) {
  busy.value = true
  const mine = asked.value
  try {
    const answer = await look(readLedger, { ...mine, ...onward && rows.value.length ? { before: rows.value.at(-1)!.id } : {} })
    if (mine !== asked.value) return
    rows.value = onward ? [...rows.value, ...answer.rows] : answer.rows
    more.value = answer.more
    problem.value = null
  }
  catch (error) {
    problem.value = toProblem(error)
  }
  busy.value = false
}
watch(asked, () => void load(false), { immediate: true })
const show = (query: Record<string, string>) => void navigateTo({ path: '/office/ledger', query })
/** One thing more or less is asked; the rest of the question stays. */
const ask = (change: Record<string, string | null>) => {
  const query = { ...route.query, ...change }
  void navigateTo({ path: '/office/ledger', query: Object.fromEntries(Object.entries(query).filter(([, value]) => value)) })
}
const of = computed(() => asked.value.student
  ? rows.value.find(row => row.student)?.student?.name ?? 'One student'
  : asked.value.section ? rows.value.find(row => row.section)?.section?.name ?? 'One section' : 'Everybody')
const termOf = (code: string) => {
  const term = catalog.term(code)
  return term ? shortTermName(term) : code
}
/** What the columns beside it say is not said again. */
function moreOf({ detail, section }: LedgerRow) {
  const { course: _, label: __, ...rest } = detail
  return sayLedgerDetail(section ? rest : detail, session.zone)
}
</script>

<template>
  <div class="page">
    <PageHead title="What happened" :about="of">
      <WordLink v-if="Object.keys(asked).length" @click="show({})">Everything</WordLink>
      <LedgerFilters :asked="asked" @ask="ask" />
    </PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="load(false)" />
    <EmptyState v-if="!busy && !rows.length && !problem">Nothing is in the ledger about that yet.</EmptyState>
    <section v-if="rows.length" class="card story" aria-label="Ledger">
      <DataTable label="What happened, the newest first">
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>What</th>
            <th>Student</th>
            <th>Section</th>
            <th>More</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.id">
            <td class="when">{{ sayMoment(row.at, session.zone) }}</td>
            <td class="names">{{ row.actor ?? 'by itself' }}</td>
            <td class="names"><b>{{ row.action }}</b></td>
            <td class="names">
              <WordLink v-if="row.student" @click="show({ student: String(row.student.id) })">{{ row.student.name }}</WordLink>
            </td>
            <td class="names">
              <WordLink v-if="row.section" @click="show({ section: String(row.section.id) })">{{ row.section.name }}</WordLink>
              <span v-if="row.section" class="second small term">{{ termOf(row.section.term) }}</span>
            </td>
            <td class="more second small">{{ moreOf(row) }}</td>
          </tr>
        </tbody>
      </DataTable>
      <p v-if="more"><ActButton :busy="busy" @click="load(true)">Earlier ones</ActButton></p>
    </section>
  </div>
</template>

<style scoped>
.story { padding: 6px 12px; }
.when, .names { white-space: nowrap; }
.more { white-space: normal; min-width: 200px; overflow-wrap: anywhere; }
.term { margin-left: 5px; }
</style>
