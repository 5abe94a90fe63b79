import { useDebounceFn } from '@vueuse/core'
import { keepSearch } from '#shared/contract/acts/student'
import { find as findView, type Found, type FoundBundle, type Search } from '#shared/contract/views/find'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** Bundles that stand side by side at most. */
export const MOST_COMPARED = 4
/** Courses that are listed before more are asked for. */
const FIRST = 20
/** Milliseconds after the last letter at which a search is sent. */
const PAUSE_MS = 110

const FRESH: Search = { text: '', canTake: true }

/** What is looked for, and what was found: kept while the page is open, so that whoever comes back finds it as it was. */
export const useFindStore = defineStore('find', () => {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  const search = ref<Search>({ ...FRESH })
  /** Sections of the working term, or courses of the whole catalog. */
  const scope = ref<'sections' | 'courses'>('sections')
  const answered = shallowRef<Found | null>(null)
  const seats = useSeatsStore()
  /** What was found, with the seats as they are now; what is not shown stays as it was counted. */
  const found = computed<Found | null>(() => answered.value && { ...answered.value,
    courses: answered.value.courses.map(one => ({ ...one, bundles: one.bundles.map(bundle => seats.found(bundle, student.groups)) })) })
  const failed = ref<Problem | null>(null)
  const busy = ref(false)
  const most = ref(FIRST)
  const compared = shallowRef<FoundBundle[]>([])

  const isOf = useFileAndTerm()
  /** Answers are taken in the order of their questions: a late one of an earlier question says nothing any more. */
  let asked = 0
  async function run() {
    if (!student.state || !workingTerm.code) return
    const mine = ++asked
    const of = isOf.value
    busy.value = true
    try {
      const answer = await look(findView, { term: workingTerm.code, search: JSON.stringify(search.value), most: most.value },
        { id: student.state.id })
      if (mine !== asked || of !== isOf.value) return
      answered.value = answer
      failed.value = null
    }
    catch (error) {
      if (mine === asked && of === isOf.value) failed.value = toProblem(error)
    }
    if (mine === asked) busy.value = false
  }
  const runSoon = useDebounceFn(run, PAUSE_MS)
  function set(values: Partial<Search>) {
    search.value = { ...search.value, ...values }
    most.value = FIRST
    void runSoon()
  }
  function more() {
    most.value = Math.min(200, most.value + 60)
    void run()
  }
  const clear = () => set({ ...FRESH, lines: undefined, fits: undefined, seatsLeft: undefined, days: undefined, from: undefined,
    to: undefined,
    sites: undefined, deliveries: undefined, sessions: undefined, subjects: undefined, levels: undefined, instructor: undefined,
    group: undefined, hiddenFor: undefined, remembered: undefined })
  // Another student or another term: what was found there says nothing here.
  watch(isOf, () => {
    answered.value = null
    compared.value = []
  })

  function compare(bundle: FoundBundle) {
    compared.value = compared.value.some(one => one.id === bundle.id)
      ? compared.value.filter(one => one.id !== bundle.id)
      : compared.value.length < MOST_COMPARED ? [...compared.value, bundle] : compared.value
  }
  const keep = (name: string) => student.act(keepSearch, { name, search: search.value })
  const letGo = (name: string) => student.act(keepSearch, { name, search: null })

  return { search, scope, found, failed, busy, most, compared, run, set, more, clear, compare, keep, letGo }
})
