import { weeklyHours } from '../catalog/credits'
import { termPhase } from '../catalog/terms'
import type { CourseItem, Credits, LocalDate, Term, TermCode } from '../catalog/types'
import { enrolmentStatus, type EnrolmentStatus } from '../grades/status'
import type { Placeholder } from './plan'
import type { StudentFile } from './student-file'

export function creditsIn(items: readonly CourseItem[], term: TermCode, placeholders: readonly Placeholder[] = []): Credits {
  const held = placeholders.reduce((sum, placeholder) => sum + (placeholder.term === term ? placeholder.credits : 0), 0)
  return items.reduce((sum, item) => sum + (item.term === term && item.state !== 'completed' ? item.credits : 0), held)
}

export interface TermLoad {
  term: TermCode
  credits: Credits
  hours: number
  status: EnrolmentStatus
  overCap: boolean
}

export function loadOf(term: Term, items: readonly CourseItem[], file: StudentFile, today: LocalDate): TermLoad {
  const past = termPhase(term, today) === 'past'
  const credits = past
    ? items.reduce((sum, item) => sum + (item.term === term.code && item.source === 'here' ? item.credits : 0), 0)
    : creditsIn(items, term.code, file.placeholders)
  const weeks = Math.round((Date.parse(term.end) - Date.parse(term.start)) / 604_800_000)
  return {
    term: term.code, credits, hours: weeklyHours(credits, weeks), status: enrolmentStatus(credits, term.fullTime),
    overCap: !past && credits > (file.capRaised[term.code] ?? term.loadCap),
  }
}
