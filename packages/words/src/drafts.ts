import type { Draft, DraftConstraint, DraftReason, Unfound } from '@ridgeway/core/planning'
import { formatCredits, sayCredits } from './credits'
import { saySharedRule } from './lines'
import { joinWords, sentence } from './lists'
import { sayLost } from './reach'
import { sayTerm, termName } from './terms'

/** "finish Fall 2028, 12 to 16 credits a term": what one draft comes to. */
export function sayDraft(draft: Draft): string {
  const long = draft.loads.filter(load => !load.summer && load.credits > 0).map(load => load.credits)
  const [least, most] = [Math.min(...long), Math.max(...long)]
  const range = long.length === 0
    ? ''
    : least === most
      ? `${sayCredits(most)} a term`
      : `${formatCredits(least)} to ${sayCredits(most)} a term`
  return [`finish ${sayTerm(draft.finish)}`, range].filter(Boolean).join(', ')
}

function sayConstraint(one: DraftConstraint): string {
  switch (one.code) {
    case 'finish by':
      return `finishing by ${sayTerm(one.term)}`
    case 'load':
      return `at most ${sayCredits(one.credits)} a term`
    case 'term off':
      return `nothing in ${sayTerm(one.term)}`
    case 'summers free':
      return 'keeping summers free'
    case 'all as placed':
      return 'leaving everything placed where it is'
    case 'pinned':
      return `${one.course} pinned in ${sayTerm(one.term)}`
  }
}

const sayUnfound = (one: Unfound) =>
  one.code === 'before'
    ? `what ${one.course} in the plan needs first`
    : one.title
      ? `${one.title} (${one.program})`
      : `the credits in all of ${one.program}`

/** Why no draft is possible: the wishes that cannot hold together, or what no wish can help. */
export function sayDraftReason(reason: DraftReason): string {
  switch (reason.code) {
    case 'conflict': {
      const words = reason.constraints.map(sayConstraint)
      const together = words.length === 1 ? `${words[0]} alone makes it impossible` : `${joinWords(words, 'and')} cannot hold together`
      const late = reason.lacking.length > 0 ? `: nothing comes in time for ${reason.lacking.map(sayUnfound).join(', ')}` : ''
      return `${sentence(together + late)}${reason.proved ? '' : ' That is as far as was searched; there may be a way that was not found.'}`
    }
    case 'no way found':
      return `No way was found that keeps all of this: ${joinWords(reason.constraints.map(sayConstraint), 'and')}.`
    case 'lost':
      return reason.lines.map(({ title, program, lost }) => `${title} (${program}): ${sayLost(lost)}`).join(' ')
    case 'no course found':
      return [
        `No course was found for ${joinWords(reason.lacking.map(sayUnfound), 'and')}${
          reason.last ? ` in the terms up to ${termName(reason.last)}, the last in the academic calendar` : ''
        }.`,
        ...reason.shared.map(saySharedRule),
      ].join(' ')
    case 'calendar too short':
      return reason.last
        ? `What is open does not fit into the terms up to ${termName(reason.last)}, the last in the academic calendar.`
        : 'The academic calendar has no term ahead.'
    case 'no place found':
      return 'Courses were found for everything that is open, but no way to place them keeps every rule. '
        + 'Take a pin off, or allow more terms or credits.'
  }
}
