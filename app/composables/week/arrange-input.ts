import { pairsApart, type Section } from '@ridgeway/core/catalog'
import { arrangeable, type WeekCourse } from '@ridgeway/core/next'
import { seatsFor } from '@ridgeway/core/registration'
import type { ArrangeInput, Wish } from '@ridgeway/core/weeks'

/** The courses of the working term as arranging reads them, and the places for which a course is still to be chosen. */
export function useArrangeInput() {
  const week = useWeekStore()
  const arrange = useArrangeStore()
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()

  const planned = computed(() => (week.courses ?? []).map(({ course, bundles }): WeekCourse => ({ course,
    bundles: bundles.map(({ id, sections, decision, picked, registered }) => ({ id, sections, findings: decision.findings, picked,
      registered,
      seats: Math.min(...sections.map((section: Section) => seatsFor(section, student.groups))) })) })))
  /** Places that are to be filled. */
  const places = computed(() => arrange.places.filter(place => !arrange.leftOpen.includes(place.id)))
  const courses = computed(() => [...planned.value, ...places.value.map(asWeekCourse)])
  const about = computed(() => workingTerm.term && { term: workingTerm.term, travel: catalog.travel })
  const can = computed(() => arrangeable(courses.value))
  /** Courses of which nothing could be taken at all: no arrangement can hold them. */
  const without = computed(() => can.value.without)
  /** Credits of what is arranged, where they are over the cap of the term: not all of it could be registered. */
  const overCap = computed(() => {
    const cap = student.state?.file.capRaised[workingTerm.code] ?? workingTerm.term?.loadCap ?? 0
    const credits = can.value.courses.reduce((sum, { course }) => sum + (placeOf(course)?.credits
      ?? student.creditsIn(course, workingTerm.code)), 0)
    return credits > cap ? { credits, cap } : null
  })
  const apart = computed(() => places.value.length === 0
    ? []
    : pairsApart([...planned.value.map(one => one.course), ...new Set(places.value.flatMap(place => place.courses.map(one => one.course)))],
        catalog.courses))
  const inputFor = (wishes: readonly Wish[], pins: Record<string, string>): ArrangeInput | null =>
    about.value ? { courses: can.value.courses, apart: apart.value, pins, wishes, ...about.value } : null
  const placeOf = (id: string) => arrange.places.find(place => place.id === id)
  /** The course, or for a place the line that it is held for. */
  const nameOf = (id: string) => placeOf(id)?.title ?? id
  const sectionsOf = (course: string, id: string): Section[] =>
    week.courses?.find(one => one.course === course)?.bundles.find(bundle => bundle.id === id)?.sections
    ?? placeOf(course)?.courses.flatMap(one => one.bundles).find(bundle => bundle.id === id)?.sections ?? []
  return { planned, about, without, overCap, inputFor, sectionsOf, placeOf, nameOf }
}
