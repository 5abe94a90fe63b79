import type { LineMoved, ProgramEffect } from '@ridgeway/core/office'
import { formatCredits, sayOpen } from './credits'
import { sayTerm } from './terms'

/** A line's state as a change of rules tells it: "met", "6 cr open", "not there". */
const sayLine = (line: LineMoved['before']) => line === null
  ? 'not there'
  : line.state === 'open' && line.open > 0 ? sayOpen(line.open) : line.state

/** What a change of a program's rules comes to for somebody: what is open, when they finish at the soonest, and which lines move. */
export function sayProgramEffect({ open, finish, lost, lines }: ProgramEffect, most = 4): string {
  const at = (term: string | null, isLost: boolean) => isLost ? 'never' : term ? sayTerm(term) : 'nothing left to take'
  const parts = [
    open.before === open.after
      ? `${sayOpen(open.after)}, as before`
      : `${formatCredits(open.before)} → ${sayOpen(open.after)}`,
    ...finish.before === finish.after && lost.before === lost.after
      ? []
      : [`soonest finish ${at(finish.before, lost.before)} → ${at(finish.after, lost.after)}`],
    ...lines.slice(0, most).map(line => `${line.title}: ${sayLine(line.before)} → ${sayLine(line.after)}`),
    ...lines.length > most ? [`and ${lines.length - most} more lines`] : [],
  ]
  return parts.join('; ')
}
