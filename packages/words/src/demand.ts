import type { Backtest, CourseDemand, Hours } from '@ridgeway/core/demand'
import { joinWords } from './lists'
import { sayTerm } from './terms'
import { clockTime } from './times'

/** What a lack of seats costs: "7 finish later, 9 terms in all". */
export function sayDelayed({ delayed }: Pick<CourseDemand, 'delayed'>): string {
  if (delayed.students === 0) return ''
  return `${delayed.students} would finish later${delayed.terms > delayed.students ? `, ${delayed.terms} terms in all` : ''}`
}

/** How near forecasts of terms that are past came. */
export function sayBacktest({ terms, error, errorAsLastYear, courses }: Backtest): string {
  const off = (n: number) => `${n.toFixed(1)} students a course`
  return `Checked against ${joinWords([...terms].reverse().map(sayTerm), 'and')}, each from what was known the term before: off by ${
    off(error)} in the mean of ${courses} figures; last year's numbers would have been off by ${off(errorAsLastYear)}.`
}

/** "M W 9:30–10:45". */
export const sayHours = ({ days, start, end }: Hours): string => `${days.join(' ')} ${clockTime(start)}–${clockTime(end)}`
