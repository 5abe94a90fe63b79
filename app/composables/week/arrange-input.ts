import type { Section } from '@ridgeway/core/catalog'
import { seatsFor } from '@ridgeway/core/registration'
import type { ArrangeInput, Choice, Wish } from '@ridgeway/core/weeks'
import type { BundleView } from '#shared/contract/views/student'

/**
 * What can be arranged for the working term: of each course the bundles that this student could take, were it not for what else is in
 * the line-up; what is registered stays as it is.
 */
export function useArrangeInput() {
  const week = useWeekStore()
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const choiceOf = (bundle: BundleView): Choice => ({ id: bundle.id, sections: bundle.sections,
    seats: Math.min(...bundle.sections.map((section: Section) => seatsFor(section, student.state?.file.programs ?? []))) })
  /** Refused for nothing but what is chosen or registered beside it. */
  const couldTake = (bundle: BundleView) => bundle.decision.findings.every(one => one.ok || one.code === 'clash' || one.code === 'load-cap')

  const courses = computed(() =>
    (week.courses ?? []).map(({ course, bundles }) => {
      const registered = bundles.filter(bundle => bundle.registered)
      return { course, choices: (registered.length > 0 ? registered : bundles.filter(couldTake)).map(choiceOf) }
    }),
  )
  /** Courses of which nothing could be taken at all: no arrangement can hold them. */
  const without = computed(() => courses.value.filter(one => one.choices.length === 0).map(one => one.course))
  const inputFor = (wishes: readonly Wish[], pins: Record<string, string>): ArrangeInput | null =>
    workingTerm.term
      ? { courses: courses.value.filter(one => one.choices.length > 0), pins, wishes, term: workingTerm.term, travel: catalog.travel }
      : null
  const sectionsOf = (course: string, id: string): Section[] =>
    week.courses?.find(one => one.course === course)?.bundles.find(bundle => bundle.id === id)?.sections ?? []
  return { without, inputFor, sectionsOf }
}
