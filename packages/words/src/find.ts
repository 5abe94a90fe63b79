import type { Delivery, GradingMode } from '@ridgeway/core/catalog'
import type { Condition, CountsFor, HiddenReason } from '@ridgeway/core/find'
import { joinWords } from './lists'

/** Why bundles are not shown, as a word or two. */
const REASONS: Partial<Record<HiddenReason, string>> = {
  'prerequisite': 'prerequisite', 'corequisite': 'corequisite', 'restriction': 'kept for others', 'already-passed': 'passed already',
  'taken-elsewhere': 'taken already', 'same-topic': 'topic taken already',
  'duplicate': 'in the line-up', 'exclusion': 'no credit beside another', 'clash': 'clashes',
  'own-clash': 'clashes with itself', 'seats-full': 'full', 'load-cap': 'over the cap', 'keep free': 'hits keep-free',
  'partner-refused': 'its partner is refused', 'section-cancelled': 'cancelled', 'bundle-incomplete': 'incomplete',
}
export const sayHidden = (reason: HiddenReason): string => REASONS[reason] ?? 'other reasons'

/** What a condition is called where it is offered to be let go. */
const CONDITIONS: Record<Condition | 'text', string> = {
  text: 'the words', lines: 'the requirement line', canTake: '“I can take”', fits: '“fits my week”', seatsLeft: '“seats left”',
  days: 'the days',
  hours: 'the hours', sites: 'the site', deliveries: 'the delivery', sessions: 'the part of the term', subjects: 'the subject',
  levels: 'the level', instructor: 'the instructor', group: 'the group', remembered: '“on the shortlist”',
}
export const sayCondition = (condition: Condition | 'text'): string => CONDITIONS[condition]

/** "counts for Voices and for Making: you choose one · also Community partner (overlay)"; what is filled already is said to be. */
export function sayCountsFor(lines: readonly CountsFor[]): string {
  const used = lines.filter(line => line.used && !line.overlay)
  // Where it fills a line already, what else it could fill is said in the requirements.
  const open = used.length > 0 ? used : lines.filter(line => line.open && !line.overlay)
  const beside = lines.filter(line => (line.open || line.used) && line.overlay).map(line => line.title)
  const filled = lines.filter(line => !line.open && !line.used && !line.overlay)
  const titles = (list: readonly CountsFor[], last: 'and' | 'or') => joinWords([...new Set(list.map(line => line.title))], last)
  const isChoice = used.length === 0 && open.length > 1 && new Set(open.map(line => line.program)).size === 1
  const parts = [
    open.length === 0 ? '' : `counts for ${titles(open, 'and')}${isChoice ? ': you choose one' : ''}`,
    beside.length > 0 ? `also ${joinWords(beside, 'and')} (overlay)` : '',
    open.length === 0 && filled.length > 0 ? `would fit ${titles(filled, 'or')}, filled already` : '',
  ].filter(Boolean)
  return parts.length > 0 ? parts.join(' · ') : 'counts for nothing that is open'
}

const GRADING: Record<GradingMode, string> = { letter: 'letter grade', pass: 'pass or no credit', audit: 'audit, no credit' }
export const sayGrading = (mode: GradingMode): string => GRADING[mode]
const DELIVERY: Record<Delivery, string> = { 'on site': 'on site', 'online live': 'online at set times',
  'online any time': 'online any time',
  'mixed': 'mixed: some on site, some online' }
export const sayDelivery = (delivery: Delivery): string => DELIVERY[delivery]
