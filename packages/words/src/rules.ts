import type { GpaOutlook, RuleReport } from '@ridgeway/core/requirements'
import { formatCredits, sayCredits } from './credits'
import { formatGpa } from './grades'
import { count } from './lists'

/** What a rule about the whole program is called. */
export const ruleTitle = ({ title, reading }: RuleReport): string =>
  title || (reading.kind === 'total' ? `${sayCredits(reading.asked)} in all` : '')

/** "12 of 30 cr earned, 45 with all that is under way and planned"; "2.43 now, 2.00 asked". */
export function sayRule({ reading }: RuleReport): string {
  switch (reading.kind) {
    case 'total':
    case 'credits':
    case 'residence':
      return `${formatCredits(reading.done)} of ${formatCredits(reading.asked)} cr earned`
        + (reading.withPlan > reading.done ? `, ${formatCredits(reading.withPlan)} with all that is under way and planned` : '')
    case 'maximum': {
      const amount = (value: number) => reading.courses ? count(value, 'course') : `${formatCredits(value)} cr`
      return `${amount(reading.used)} of at most ${amount(reading.most)}`
        + (reading.over > 0 ? `; for nothing: ${amount(reading.over)} more` : '')
    }
    case 'gpa':
      return reading.now === null
        ? `no grades yet, ${formatGpa(reading.asked)} asked`
        : `${formatGpa(reading.now)} now, ${formatGpa(reading.asked)} asked${reading.outlook ? sayOutlook(reading.outlook) : ''}`
    case 'milestone':
      return reading.words
  }
}

function sayOutlook(outlook: GpaOutlook): string {
  switch (outlook.code) {
    case 'needs average':
      return `; an average of ${formatGpa(outlook.average)} over the next ${formatCredits(outlook.credits)} cr gets there`
    case 'nothing ahead':
      return '; nothing that counts in it is planned, and repeating a course with a low grade can lift it'
    case 'too little planned':
      return `; the ${formatCredits(outlook.credits)} cr of it still to come cannot lift it that far`
    case 'out of reach':
      return ''
  }
}

/** Why a rule cannot be met any more; empty while it can. */
export function sayOutOfReach({ reading }: RuleReport): string {
  if (reading.kind !== 'gpa' || reading.outlook?.code !== 'out of reach') return ''
  const { top, credits } = reading.outlook
  return `Even ${formatGpa(top)} in all the ${sayCredits(credits)} that are left would not bring the average to ${
    formatGpa(reading.asked)
  }. Repeating a course with a low grade can.`
}
