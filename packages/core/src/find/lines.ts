import { matchesFilter } from '../catalog/filter'
import { linked } from '../catalog/linked'
import type { Course, CourseCode } from '../catalog/types'
import { lineRef } from '../record/ids'
import { poolOf } from '../requirements/reach'
import type { ProgramReport } from '../requirements/report'
import type { SearchLine } from './search'

/**
 * The lines of a student's programs as a search reads them, in the order of the programs: an open one takes what still fills it, one that
 * is filled what its filter accepts.
 */
export function searchLines(reports: readonly ProgramReport[], courses: ReadonlyMap<CourseCode, Course>): SearchLine[] {
  const all = linked(courses)
  const lines = reports.flatMap(report => [
    ...report.areas.flatMap(area => area.lines.map(line => ({ report, line, hue: area.hue as string }))),
    ...report.overlays.map(line => ({ report, line, hue: 'slate' })),
  ])
  return lines.map(({ report, line, hue }): SearchLine => {
    const open = line.open > 0 && !line.setAside
    const pool = open ? new Set(poolOf(line, all).flat().map(course => course.code)) : null
    return { uses: new Set(line.uses.map(use => use.item.course)), line: lineRef(report.code, line.id), title: line.title,
      program: report.title, hue, open, overlay: line.overlay,
      takes: course => pool ? pool.has(course.code) : matchesFilter(all.get(course.code) ?? course, line.filter) }
  }).sort((a, b) => Number(b.open) - Number(a.open))
}
