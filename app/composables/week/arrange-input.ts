import type { Section } from '@ridgeway/core/catalog'
import { arrangeable, type WeekCourse } from '@ridgeway/core/next'
import { seatsFor } from '@ridgeway/core/registration'
import type { ArrangeInput, Wish } from '@ridgeway/core/weeks'

/** The courses of the working term as arranging reads them. */
export function useArrangeInput() {
  const week = useWeekStore()
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()

  const courses = computed(() => (week.courses ?? []).map(({ course, bundles }): WeekCourse => ({ course,
    bundles: bundles.map(({ id, sections, decision, picked, registered }) => ({ id, sections, findings: decision.findings, picked,
      registered,
      seats: Math.min(...sections.map((section: Section) => seatsFor(section, student.groups))) })) })))
  const about = computed(() => workingTerm.term && { term: workingTerm.term, travel: catalog.travel })
  const can = computed(() => arrangeable(courses.value))
  /** Courses of which nothing could be taken at all: no arrangement can hold them. */
  const without = computed(() => can.value.without)
  /** Credits of what is arranged, where they are over the cap of the term: not all of it could be registered. */
  const overCap = computed(() => {
    const cap = student.state?.file.capRaised[workingTerm.code] ?? workingTerm.term?.loadCap ?? 0
    const credits = can.value.courses.reduce((sum, { course }) => sum + student.creditsIn(course, workingTerm.code), 0)
    return credits > cap ? { credits, cap } : null
  })
  const inputFor = (wishes: readonly Wish[], pins: Record<string, string>): ArrangeInput | null =>
    about.value ? { courses: can.value.courses, pins, wishes, ...about.value } : null
  const sectionsOf = (course: string, id: string): Section[] =>
    week.courses?.find(one => one.course === course)?.bundles.find(bundle => bundle.id === id)?.sections ?? []
  return { courses, about, without, overCap, inputFor, sectionsOf }
}
