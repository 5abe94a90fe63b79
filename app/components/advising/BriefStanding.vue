<script setup lang="ts">
import { formatCredits, sayOpen, formatGpa, sayMoment, sayMoney } from '@ridgeway/words'

/** How the student stands, in a few figures, and when they may register. */
const student = useStudentStore()
const catalog = useCatalogStore()
const session = useSessionStore()
const standing = computed(() => student.standing!)
const paceSaid = computed(() => {
  const { soFar, asked } = student.pace ?? { soFar: null, asked: null }
  const said = soFar === null ? 'first term' : `${formatCredits(soFar)} cr a term`
  return asked === null ? said : `${said}, needs ${formatCredits(asked)}`
})
const advising = useAdvisingStore()
/** The chain of courses that decides the finish. */
const chain = computed(() =>
  (student.projection?.chain ?? []).flatMap(id => standing.value.items.find(item => item.id === id)?.course ?? []))
const rows = computed(() => {
  const [first, ...others] = standing.value.reports
  const finish = standing.value.finish
  const { state, account } = student
  return [
    [`${first?.title} · ${first?.catalogYear}`, `${formatCredits(first?.met ?? 0)} of ${formatCredits(first?.totalCredits ?? 0)} cr met`],
    ...others.map(report => [report.title, report.open === 0 ? 'covered' : sayOpen(report.open)]),
    ['GPA', formatGpa(standing.value.gpa.value)],
    ['pace', paceSaid.value],
    ['finish', finish ? catalog.term(finish)?.name ?? finish : 'not all covered'],
    ['decided by', chain.value.slice(-3).join(' → ') || '–'],
    ['holds · balance', `${state!.holds.length || 'none'} · ${sayMoney(account?.balance ?? 0)}`],
    ['opens', state!.opening ? sayMoment(state!.opening.from, session.zone) : 'not set'],
    ['advised by', `${state!.advisor?.name ?? 'nobody'}${state!.deputy ? `, for whom ${state!.deputy} stands in` : ''}`],
  ]
})
</script>

<template>
  <section class="card" aria-label="Standing">
    <h2>Standing</h2>
    <dl>
      <template v-for="[what, how] in rows" :key="what">
        <dt>{{ what }}</dt>
        <dd>{{ how }}</dd>
      </template>
    </dl>
    <p v-for="one in advising.brief?.before ?? []" :key="one.until" class="second small">
      Until {{ longDate(student.localDate(one.until)) }} advised by {{ one.advisor }}: {{ one.reason }}
    </p>
  </section>
</template>

<style scoped>
dl { display: grid; grid-template-columns: auto 1fr; gap: 3px 12px; margin: 6px 0; }
dt { color: var(--second); }
dd { margin: 0; text-align: right; font-weight: 650; }
p { margin: 2px 0; }
</style>
