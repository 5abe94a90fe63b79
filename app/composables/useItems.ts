import { type CourseItem, termProgress } from '@ridgeway/core/catalog'

/** How an item is drawn and said, the same in every view. */
export function useItems() {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const { today } = useNow()

  const hueOf = (item: Pick<CourseItem, 'id'>): string => {
    for (const report of student.shown?.reports ?? []) {
      const area = report.areas.find(a => a.lines.some(line => line.uses.some(use => use.item.id === item.id)))
      if (area) return area.hue
    }
    return 'slate'
  }
  const doneOf = (item: CourseItem) => {
    const term = item.term && catalog.term(item.term)
    return term ? termProgress(term, today.value) : 0.5
  }
  const isOffPath = (item: Pick<CourseItem, 'id'>) => student.shown?.offPath.includes(item.id) ?? false
  const checksOf = (item: Pick<CourseItem, 'id'>) => student.shown?.checks.filter(check => check.itemId === item.id) ?? []
  const titleOf = (code: string) => catalog.courses.get(code)?.title ?? ''
  return { hueOf, doneOf, isOffPath, checksOf, titleOf }
}
