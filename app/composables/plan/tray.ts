import { lineRef, type LineRef } from '@ridgeway/core/record'
import type { LineReport } from '@ridgeway/core/requirements'
import { sayLacking } from '@ridgeway/words'

/** Something required that has no place in the plan yet: a course, or a line of which courses are still to be chosen. */
export interface Chip {
  key: string
  course: string | null
  program: string
  line: Pick<LineReport, 'id' | 'title' | 'open'>
  ref: LineRef
  words: string
  hue: string
}

/** Everything required and not placed, line by line. */
export function usePlanTray() {
  const student = useStudentStore()
  return computed(() =>
    (student.standing?.reports ?? []).flatMap(report =>
      report.areas.flatMap(area =>
        area.lines.filter(line => line.open > 0 && !line.setAside).flatMap((line): Chip[] => {
          const whole = lineRef(report.code, line.id)
          const chip = { program: report.code, line, ref: whole, hue: area.hue }
          if (line.unfilled.length > 0)
            return line.unfilled.map(code => ({ ...chip, key: `${report.code}-${code}`, course: code, words: '' }))
          const held = student.plan.placeholders.filter(place => place.line === whole).reduce((sum, place) => sum + place.credits, 0)
          return held >= line.open ? [] : [{ ...chip, key: whole, course: null, words: sayLacking(line.lacking) }]
        }),
      ),
    ),
  )
}
