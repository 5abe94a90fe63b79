import type { Section } from '@ridgeway/core/catalog'
import type { WeekCourse } from '@ridgeway/core/next'
import type { LineRef } from '@ridgeway/core/record'
import { find, type FoundCourse } from '#shared/contract/views/find'
import { look } from '~/composables/useApi'

/** A place of the working term for which a course is still to be chosen, with what could stand there. */
export interface OpenPlace {
  /** The placeholder's id. */
  id: string
  line: LineRef
  title: string
  credits: number
  courses: FoundCourse[]
}
/** Courses that are asked for to fill one place, at most. */
const MOST_COURSES = 40

/** Reads what could fill the places held in the working term: courses of the line that the student could take, with their bundles. */
export async function readPlaces(): Promise<OpenPlace[]> {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  const requirements = useRequirementsStore()
  const term = workingTerm.code
  const held = student.plan.placeholders.filter(place => place.term === term)
  return Promise.all(held.map(async ({ id, line, credits }) => ({ id, line, credits, title: requirements.lineAt(line)?.title ?? line,
    courses: (await look(find, { term, search: JSON.stringify({ text: '', lines: [line], canTake: true }), most: MOST_COURSES },
      { id: student.state!.id })).courses })))
}

/** A place as arranging reads it: one of the bundles of any of its courses. */
export const asWeekCourse = ({ id, courses }: OpenPlace): WeekCourse => ({ course: id, bundles: courses.flatMap(({ bundles }) =>
  bundles.map(bundle => ({ id: bundle.id, sections: bundle.sections as Section[], seats: bundle.seats, findings: bundle.refusals,
    picked: false, registered: false }))) })
