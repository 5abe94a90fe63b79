import type { OfficeNeed } from '@ridgeway/core/office'
import { sayCredits } from './credits'
import { count, joinWords } from './lists'
import { sayMoney } from './money'
import { sayDate, termName } from './terms'
import { sayMoment } from './times'

/** Where the office does something about a need. */
export type OfficePlace = 'terms' | 'sections' | 'demand' | 'people' | 'college'

/** One thing that needs the office: its name, why, and where it is done. */
export function sayOfficeNeed(need: OfficeNeed, zone: string): { title: string, words: string, place: OfficePlace } {
  switch (need.code) {
    case 'registration closed':
      return { title: `Registration for ${termName(need.term)} is closed`, words: `Students read: ${need.because}`, place: 'terms' }
    case 'import refused':
      return { title: 'An import was refused', words: `${sayMoment(need.at, zone)}, ${count(need.problems, 'problem')}. ${need.first}`,
        place: 'college' }
    case 'opening': {
      const out = [need.unsigned > 0 && `${need.unsigned} not signed off`, need.held > 0 && `${need.held} with a hold`,
        need.unconfirmed > 0 && `${need.unconfirmed} without a confirmed program`].filter(one => one !== false)
      return { title: `${need.isOpen ? 'Open since' : 'Opens'} ${sayMoment(need.from, zone)} for ${need.who}`,
        words: `${count(need.students, 'student')}. ${out.length > 0 ? `Could not register yet: ${out.join(', ')}.` : 'All could.'}`,
        place: 'terms' }
    }
    case 'no opening':
      return { title: `${count(need.students, 'student')} cannot register for ${termName(need.term)}`,
        words: 'No opening lets them in.', place: 'terms' }
    case 'questions':
      return { title: `${count(need.count, 'request')} for an exception`,
        words: need.count === 1 ? `From ${need.first.name}.` : `The oldest from ${need.first.name}.`, place: 'people' }
    case 'waiting':
      return { title: `${count(need.students, 'student')} on ${count(need.sections, 'waitlist')}`,
        words: `Most for ${need.most.course}-${need.most.label}: ${need.most.waiting}. More seats go to them first.`, place: 'sections' }
    case 'over-wished':
      return { title: `More students plan ${count(need.courses, 'course')} than there are seats`,
        words: `${joinWords(need.most.map(one => `${one.course} (${one.planned} plan it, ${count(one.seats, 'seat')})`), 'and')}${
          need.courses > need.most.length ? ', and more' : ''}.`, place: 'demand' }
    case 'unpaid':
      return { title: `${count(need.students, 'student')} ${need.students === 1 ? 'has' : 'have'} not paid ${termName(need.term)}`,
        words: `${sayMoney(need.cents)} in all, due by ${sayDate(need.by)}. What is unpaid then is voided.`, place: 'people' }
    case 'no advisor':
      return { title: `${count(need.students, 'student')} without an advisor`, words: 'Nobody can sign off their terms.', place: 'people' }
    case 'catalog':
      return { title: `The catalog has ${count(need.problems, 'problem')}`,
        words: 'Rules that nobody can get past, lines that nobody can fill, sequences that break their own rules.', place: 'college' }
    case 'holds':
      return { title: count(need.count, 'hold'), words: 'Each keeps a student from registering.', place: 'people' }
    case 'unconfirmed':
      return { title: `${count(need.count, 'student')} without a confirmed program`, words: 'They confirm it under Now, or you do.',
        place: 'people' }
  }
}

/** What the ledger kept of something that happened, in one line; empty where it kept nothing. Moments are told in the college's zone. */
export function sayLedgerDetail(detail: Readonly<Record<string, unknown>>, zone: string): string {
  const say = (value: unknown): string => {
    if (value === null || value === undefined || value === '') return ''
    if (Array.isArray(value)) return value.map(say).filter(Boolean).join(', ')
    if (typeof value === 'object') return sayLedgerDetail(value as Record<string, unknown>, zone)
    return typeof value === 'string' && MOMENT.test(value) ? sayMoment(value, zone) : String(value as string | number | boolean)
  }
  return Object.entries(detail).map(([key, value]): [string, string] => key === 'earnedMin'
    ? ['', `${sayCredits(Number(value))}`]
    : [KEYS[key] ?? key, say(value)])
    .filter(([, words]) => words !== '').map(([key, words]) => key === '' ? words : `${key} ${words}`).join('; ')
}
const MOMENT = /^\d{4}-\d\d-\d\dT\d\d:\d\d/
/** Keys that read better by another name, or by none. */
const KEYS: Record<string, string> = { course: '', label: 'section', because: 'because:', reason: 'because:', words: '', tables: '',
  file: '',
  openings: '', first: '' }
