import type { NeedCode } from '@ridgeway/core/advising'
import { writeTable } from '@ridgeway/formats'
import { formatCredits, formatGpa, sayMoment, sayNeed, sayTerm } from '@ridgeway/words'
import type { AdviseeRow } from '#shared/contract/views/advising'

/** What the table of advisees can be narrowed to. */
export type Filter = 'needs me' | 'asks' | 'opens' | 'problems' | 'changed' | 'behind' | 'quiet' | 'ready'
/** A way to look at the table that is kept by name. */
export interface KeptView { name: string, filters: Filter[], search: string }

const has = (codes: readonly NeedCode[]) => (row: AdviseeRow) => row.needs.some(need => codes.includes(need.code))
/** Signed off in one go: something is planned, nothing blocks, and it is not signed as it stands. */
export const isReady = (row: AdviseeRow) =>
  row.planned.length > 0 && row.blockers === 0
  && (!row.signedOff || row.needs.some(need => need.code === 'changed after sign-off'))
const FILTERS: Record<Filter, { words: string, holds: (row: AdviseeRow) => boolean }> = {
  'needs me': { words: 'Needs me', holds: row => row.urgency > 0 },
  'asks': { words: 'Asks for something', holds: has(['sign-off asked', 'exceptions asked', 'program asked', 'comments']) },
  'opens': { words: 'Opens, not signed off', holds: has(['opens unsigned']) },
  'problems': { words: 'Problems in the term', holds: has(['blockers', 'hold', 'unconfirmed']) },
  'changed': { words: 'Changed since',
    holds: row => has(['changed after sign-off', 'finish slipped'])(row) || (row.since?.edits ?? 0) > 0 },
  'behind': { words: 'GPA or off-path', holds: has(['gpa', 'off path']) },
  'quiet': { words: 'No plan, or silent', holds: has(['no plan', 'silent']) },
  'ready': { words: 'Can be signed off', holds: isReady },
}

/** The advisees as they are looked at: filters with their counts, a search, and views that are kept by name on this device. */
export function useAdviseeTable() {
  const advising = useAdvisingStore()
  const session = useSessionStore()
  const filters = ref<Filter[]>([])
  const search = ref('')
  const all = computed(() => advising.advisees ?? [])
  const found = computed(() => all.value.filter(row => row.name.toLowerCase().includes(search.value.trim().toLowerCase())))
  /** Of what is found, each filter by itself. */
  const choices = computed(() => (Object.keys(FILTERS) as Filter[]).map(value => ({ value, words: FILTERS[value].words,
    count: found.value.filter(FILTERS[value].holds).length })))
  const rows = computed(() => found.value.filter(row => filters.value.every(filter => FILTERS[filter].holds(row))))

  const views = useLocalStorage<KeptView[]>(`ridgeway.advisee-views.${session.account?.id ?? 0}`, [])
  function keepView(name: string) {
    views.value = [...views.value.filter(view => view.name !== name), { name, filters: filters.value, search: search.value }]
  }
  function openView(view: KeptView) {
    filters.value = [...view.filters]
    search.value = view.search
  }
  const dropView = (name: string) => views.value = views.value.filter(view => view.name !== name)

  /** What is looked at, as a CSV file (RFC 4180); cells that a spreadsheet would run as formulas are made harmless. */
  function csv(): string {
    return writeTable(rows.value.map(row => ({
      'Student': row.name, 'Program': row.program, 'Needs you for': row.needs.map(need => sayNeed(need, session.zone)).join('; '),
      'Earned': formatCredits(row.earned), 'GPA': formatGpa(row.gpa), 'Planned': row.planned.map(one => one.course).join(' '),
      'Finish': row.finish ? sayTerm(row.finish) : '', 'Opens': row.opensAt ? sayMoment(row.opensAt, session.zone) : '',
      'Sign-off': row.signedOff ? 'given' : row.asked ? 'asked' : '',
    })))
  }
  return { filters, search, choices, rows, all, views, keepView, openView, dropView, csv }
}
