<script setup lang="ts">
import type { z } from 'zod'
import { sayLedgerDetail, sayMoment, shortTermName } from '@ridgeway/words'
import { findPeople } from '#shared/contract/views/advising'
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
const asked = computed(() => ({ ...number('student') ? { student: number('student')! } : {}, ...number('section')
  ? { section: number('section')! }
  : {} }))
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
const text = ref('')
const found = shallowRef<z.output<typeof findPeople.output> | null>(null)
watchDebounced(text, async (name) => {
  found.value = name.trim().length > 1 ? await look(findPeople, { text: name }).catch(() => null) : null
}, { debounce: 250 })
const show = (query: Record<string, string>) => {
  text.value = ''
  void navigateTo({ path: '/office/ledger', query })
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
      <WordLink v-if="asked.student || asked.section" @click="show({})">Everybody's</WordLink>
      <v-text-field v-model="text" class="finder" label="Find a student by name" bg-color="surface" />
    </PageHead>
    <p v-if="found" class="found" role="status">
      <template v-if="!found.students.length">Nobody is called that.</template>
      <WordLink v-for="one in found.students" :key="one.id" @click="show({ student: String(one.id) })">{{ one.name }}</WordLink>
    </p>
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
.finder { width: 240px; flex: none; }
.found { display: flex; flex-wrap: wrap; gap: 12px; margin: 0 0 8px; }
.story { padding: 6px 12px; }
.when, .names { white-space: nowrap; }
.more { white-space: normal; min-width: 200px; overflow-wrap: anywhere; }
.term { margin-left: 5px; }
</style>
