import type { FileView } from '#shared/contract/define'
import type { Looking } from '../college/asked'
import { readSheet, readWeekView } from './week'
import { readStudentView } from './student'

/** The views that an act can answer with. */
export const FILE_VIEWS: Record<FileView, (looking: Looking<{ term: string, plan?: number }>) => Promise<unknown>> = {
  student: readStudentView,
  week: readWeekView,
  sheet: readSheet,
}
