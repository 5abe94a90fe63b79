import type { AdvisingPolicy } from '@ridgeway/core/advising'
import { type Course, type Site, type Term, termOrder, type TravelTime } from '@ridgeway/core/catalog'
import type { MoneyPolicy } from '@ridgeway/core/money'
import type { Catalog } from '@ridgeway/core/planning'
import type { CatalogProblem } from '@ridgeway/core/prerequisites'
import type { Program } from '@ridgeway/core/requirements'
import { readCatalog } from '#shared/contract/views/college'
import { look, toProblem, type Problem } from '~/composables/useApi'

/** The college's catalog, fetched once a session. */
export const useCatalogStore = defineStore('catalog', () => {
  const ready = ref(false)
  const stamp = ref(0)
  const name = ref('')
  const advising = shallowRef<AdvisingPolicy>({ entitled: {} as AdvisingPolicy['entitled'], changedAfter: 'shown', releaseCode: 'instead',
    releaseDays: 0, silentDays: 0 })
  const policy = shallowRef<MoneyPolicy>({ bands: [], siteFees: {}, refunds: [], plans: [], lateDays: 0, graceDays: 0 })
  const termsText = ref('')
  const offerHours = ref(0)
  const zone = ref('')
  const sites = shallowRef<Site[]>([])
  const travel = shallowRef<TravelTime[]>([])
  const terms = shallowRef<Term[]>([])
  const courses = shallowRef<Map<string, Course>>(new Map())
  const programs = shallowRef<Map<string, Program>>(new Map())
  const problems = shallowRef<CatalogProblem[]>([])
  const rules = shallowRef<Pick<Catalog, 'scale' | 'repeatPolicy' | 'programsPolicy'>>({ scale: {}, repeatPolicy: 'best' })

  /** Why it could not be read, while it is not there. */
  const failed = ref<Problem | null>(null)
  let asking: Promise<void> | null = null

  /** Reads it once, however many ask; again when it has changed. */
  async function load(again = false) {
    if (ready.value && !again) return
    await (asking ??= ask().finally(() => asking = null))
  }
  async function ask() {
    let college
    try {
      college = await look(readCatalog, {})
      failed.value = null
    }
    catch (error) {
      const problem = toProblem(error)
      failed.value = problem.code === 'signed-out' ? null : problem
      return
    }
    stamp.value = college.stamp
    name.value = college.name
    policy.value = college.money
    advising.value = college.advising
    termsText.value = college.termsText
    offerHours.value = college.offerHours
    zone.value = college.zone
    sites.value = college.sites
    travel.value = college.travel
    terms.value = college.terms
    courses.value = new Map(college.courses.map(course => [course.code, course]))
    programs.value = new Map(Object.entries(college.programs))
    problems.value = college.problems
    rules.value = { scale: college.scale, repeatPolicy: college.repeatPolicy,
      programsPolicy: college.advising.programs ?? 'in order' }
    ready.value = true
  }

  const term = (code: string) => terms.value.find(candidate => candidate.code === code)
  const siteName = (code: string) => sites.value.find(site => site.code === code)?.name ?? code
  /** The earliest term with sections that has not begun; where none has sections the next to begin, or the last. */
  const nextTerm = (today: string) => {
    const inOrder = [...terms.value].sort((a, b) => termOrder(a.code) - termOrder(b.code))
    const ahead = inOrder.filter(t => t.start > today)
    return ahead.find(t => t.scheduled) ?? ahead[0] ?? inOrder.at(-1)
  }

  return { ready, failed, stamp,
    name, zone, policy, advising, termsText, offerHours, sites, travel, terms, courses, programs, problems, rules, load, term, siteName,
    nextTerm }
})
