import { type CourseItem, termProgress } from '@ridgeway/core/catalog'
import { lineRef } from '@ridgeway/core/record'

/** The lane of courses that count for nothing. */
export const OFF_PATH = 'off-path'
/** Courses that no line uses and that count all the same: in the total, or as what a needed course rests on. */
export const OTHER_CREDIT = 'other-credit'

/** How an item is drawn and said, the same in every view. */
export function useItems() {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const { today } = useNow()

  /** The first area that uses an item, majors before certificates. */
  function areaOf(item: Pick<CourseItem, 'id'>) {
    for (const { code, areas } of student.shown?.reports ?? []) {
      const area = areas.find(a => a.lines.some(line => line.uses.some(use => use.item.id === item.id)))
      if (area) return { program: code, ...area }
    }
  }
  const hueOf = (item: Pick<CourseItem, 'id'>): string => areaOf(item)?.hue ?? 'slate'
  /** The hue of a course in a term, whichever item it is there. */
  const hueOfCourse = (course: string, term: string) =>
    hueOf(student.standing?.items.find(item => item.course === course && item.term === term) ?? { id: '' })
  const laneOf = (item: Pick<CourseItem, 'id'>): string => {
    const area = areaOf(item)
    return area ? lineRef(area.program, area.id) : student.shown?.offPath.includes(item.id) ? OFF_PATH : OTHER_CREDIT
  }
  const doneOf = (item: CourseItem) => {
    const term = item.term && catalog.term(item.term)
    return term ? termProgress(term, today.value) : 0.5
  }
  const isOffPath = (item: Pick<CourseItem, 'id'>) => student.shown?.offPath.includes(item.id) ?? false
  const checksOf = (item: Pick<CourseItem, 'id'>) => student.shown?.checks.filter(check => check.itemId === item.id) ?? []
  const titleOf = (code: string) => catalog.courses.get(code)?.title ?? ''
  return { hueOf, hueOfCourse, laneOf, doneOf, isOffPath, checksOf, titleOf }
}
