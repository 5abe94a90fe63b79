import { describe, expect, it } from 'vitest'
import type { CollegeFinding, OfficeNeed, ProgramEffect } from '@ridgeway/core/office'
import { sayCollegeFinding } from './college-check'
import { sayBacktest, sayDelayed } from './demand'
import { sayLedgerDetail, sayOfficeNeed } from './office'
import { sayProgramEffect } from './program-change'

const ZONE = 'America/Halifax'
const AT = '2026-11-30T16:00:00.000Z'
const term = { code: '2027SP', name: 'Spring 2027' }
const opening = { code: 'opening' as const, from: AT, isOpen: false, who: 'seniors', students: 120, unsigned: 0, held: 0, unconfirmed: 0 }

const NEEDS: Record<OfficeNeed['code'], [OfficeNeed, string][]> = {
  'registration closed': [[{ code: 'registration closed', term, because: 'The fee table is being mended.' },
    'Registration for Spring 2027 is closed | Students read: The fee table is being mended. | terms']],
  'import refused': [[{ code: 'import refused', at: AT, problems: 1, first: 'courses.csv, row 3: no title.' },
    'An import was refused | Mon 30 Nov, 12:00, 1 problem. courses.csv, row 3: no title. | college']],
  'opening': [[opening, 'Opens Mon 30 Nov, 12:00 for seniors | 120 students. All could. | terms'],
    [{ ...opening, isOpen: true, students: 1, unsigned: 4, held: 2, unconfirmed: 1 }, 'Open since Mon 30 Nov, 12:00 for seniors | '
    + '1 student. Could not register yet: 4 not signed off, 2 with a hold, 1 without a confirmed program. | terms']],
  'no opening': [[{ code: 'no opening', term, students: 3 },
    '3 students cannot register for Spring 2027 | No opening lets them in. | terms']],
  'questions': [[{ code: 'questions', count: 1, first: { student: 1, name: 'Tamsin Ware' } },
    '1 request for an exception | From Tamsin Ware. | people'],
  [{ code: 'questions', count: 4, first: { student: 1, name: 'Tamsin Ware' } },
    '4 requests for an exception | The oldest from Tamsin Ware. | people']],
  'waiting': [[{ code: 'waiting', sections: 2, students: 9, most: { section: 1, course: 'AAA 100', label: '02', waiting: 7 } },
    '9 students on 2 waitlists | Most for AAA 100-02: 7. More seats go to them first. | sections']],
  'over-wished': [[{ code: 'over-wished', courses: 1, most: [{ course: 'AAA 100', planned: 40, seats: 1 }] },
    'More students plan 1 course than there are seats | AAA 100 (40 plan it, 1 seat). | demand'],
  [{ code: 'over-wished', courses: 3,
    most: [{ course: 'AAA 100', planned: 40, seats: 24 }, { course: 'BBB 100', planned: 30, seats: 24 }] },
  'More students plan 3 courses than there are seats | AAA 100 (40 plan it, 24 seats) and BBB 100 (30 plan it, 24 seats), '
  + 'and more. | demand']],
  'unpaid': [[{ code: 'unpaid', term, students: 2, cents: 123_450, by: '2027-01-15', days: 3 },
    '2 students have not paid Spring 2027 | 1,234.50 in all, due by 15 Jan 2027. What is unpaid then is voided. | people'],
  [{ code: 'unpaid', term, students: 1, cents: 50_000, by: '2027-01-15', days: 3 },
    '1 student has not paid Spring 2027 | 500.00 in all, due by 15 Jan 2027. What is unpaid then is voided. | people']],
  'no advisor': [[{ code: 'no advisor', students: 2 }, '2 students without an advisor | Nobody can sign off their terms. | people']],
  'holds': [[{ code: 'holds', count: 5 }, '5 holds | Each keeps a student from registering. | people']],
  'unconfirmed': [[{ code: 'unconfirmed', count: 1 },
    '1 student without a confirmed program | They confirm it under Now, or you do. | people']],
  'catalog': [[{ code: 'catalog', problems: 2 }, 'The catalog has 2 problems | Rules that nobody can get past, lines that nobody can fill, '
  + 'sequences that break their own rules. | college']],
}

describe('what needs the office', () => {
  it.each(Object.values(NEEDS).flat())('%j reads "%s"', (need, said) => {
    const { title, words, place } = sayOfficeNeed(need, ZONE)
    expect([title, words, place].join(' | ')).toBe(said)
  })
})

describe('what the ledger kept', () => {
  it('is told in one line, with what has no value left out, moments in the college\'s zone and credits as credits', () => {
    expect(sayLedgerDetail({}, ZONE)).toBe('')
    expect(sayLedgerDetail({ course: 'AAA 100', label: '02', because: 'moved away', note: null, empty: '', none: [] }, ZONE))
      .toBe('AAA 100; section 02; because: moved away')
    expect(sayLedgerDetail({ seats: 24, from: AT, earnedMin: 6000, on: true }, ZONE))
      .toBe('seats 24; from Mon 30 Nov, 12:00; 60 credits; on true')
    expect(sayLedgerDetail({ openings: [{ who: 'seniors', earnedMin: 9000 }, { who: 'everybody' }] }, ZONE))
      .toBe('who seniors; 90 credits, who everybody')
  })
})

describe('what a change of a program comes to', () => {
  const effect: ProgramEffect = { kind: 'same', open: { before: 600, after: 600 }, finish: { before: '2028SP', after: '2028SP' },
    lost: { before: false, after: false }, lines: [] }
  const line = (title: string, before: ProgramEffect['lines'][0]['before'], after: ProgramEffect['lines'][0]['after']) =>
    ({ id: title, title, before, after })
  it.each<[Partial<ProgramEffect>, string]>([
    [{}, '6 cr open, as before'],
    [{ open: { before: 600, after: 150 }, finish: { before: '2028SP', after: '2027FA' } },
      '6 → 1.5 cr open; soonest finish Spring 2028 → Fall 2027'],
    [{ finish: { before: '2028SP', after: null }, lost: { before: false, after: true } },
      '6 cr open, as before; soonest finish Spring 2028 → never'],
    [{ finish: { before: null, after: '2027FA' } }, '6 cr open, as before; soonest finish nothing left to take → Fall 2027'],
    [{ lines: [line('Fields', null, { state: 'open', open: 300 }), line('Voices', { state: 'met', open: 0 }, null)] },
      '6 cr open, as before; Fields: not there → 3 cr open; Voices: met → not there'],
    [{ lines: ['a', 'b', 'c', 'd', 'e', 'f'].map(title => line(title, { state: 'met', open: 0 }, { state: 'open', open: 0 })) },
      '6 cr open, as before; a: met → open; b: met → open; c: met → open; d: met → open; and 2 more lines'],
  ])('%j', (values, words) => expect(sayProgramEffect({ ...effect, ...values })).toBe(words))
})

describe('demand', () => {
  it('says what a lack of seats costs, and nothing where it costs nothing', () => {
    expect(sayDelayed({ delayed: { students: 0, terms: 0 } })).toBe('')
    expect(sayDelayed({ delayed: { students: 7, terms: 7 } })).toBe('7 would finish later')
    expect(sayDelayed({ delayed: { students: 7, terms: 9 } })).toBe('7 would finish later, 9 terms in all')
  })

  it('says how near forecasts came, beside the simplest there is', () => {
    expect(sayBacktest({ terms: ['2026FA', '2026SP'], error: 1.44, errorAsLastYear: 3.1, courses: 80 })).toBe(
      'Checked against Spring 2026 and Fall 2026, each from what was known the term before: off by 1.4 students a course in the mean of 80 '
      + 'figures; last year\'s numbers would have been off by 3.1 students a course.')
  })
})

describe('what is wrong with the college\'s tables', () => {
  const FINDINGS: Record<CollegeFinding['code'], [CollegeFinding, string][]> = {
    'given no more': [[{ code: 'given no more', course: 'AAA 100', programs: ['P'] },
      'AAA 100 is given in no term ahead, and P names it. Name what stands in its place, or announce it.'],
    [{ code: 'given no more', course: 'AAA 100', programs: ['P', 'Q'] },
      'AAA 100 is given in no term ahead, and P and Q name it. Name what stands in its place, or announce it.']],
    'line cannot be filled': [[{ code: 'line cannot be filled', program: 'P', line: 'Fields', reasons: [] },
      'P, Fields: who begins now can never fill it. Widen the line, or offer what it asks for.'],
    [{ code: 'line cannot be filled', program: 'P', line: 'Fields', reasons: ['AAA 100', 'BBB 100', 'CCC 100'].map(course =>
      ({ code: 'in no term ahead', course })) },
    'P, Fields: who begins now can never fill it, since AAA 100 is in no term ahead; BBB 100 is in no term ahead. '
    + 'Widen the line, or offer what it asks for.']],
    'sequence too early': [[{ code: 'sequence too early', program: 'P', step: 'first fall', course: 'AAA 200' },
      'P, first fall: AAA 200 comes before what it asks for. Move it to a later step.']],
    'sequence not given': [[{ code: 'sequence not given', program: 'P', step: 'first fall', course: 'AAA 200', season: 'fall' },
      'P, first fall: AAA 200 is not given in fall. Move it to a step of its season.']],
    'sequence over the cap': [[{ code: 'sequence over the cap', program: 'P', step: 'first fall', credits: 1950, cap: 1800 },
      'P, first fall: 19.5 credits are over the cap of 18. Spread them over more steps.']],
    'minutes': [[{ code: 'minutes', course: 'AAA 100', label: '01', term: '2027SP', minutes: 900, least: 1800, most: 2700 },
      'AAA 100-01 in Spring 2027 meets 900 minutes in all; its credits stand for 1800 to 2700. Mend its meetings, or the credits.']],
  }
  it.each(Object.values(FINDINGS).flat())('%j', (finding, words) => expect(sayCollegeFinding(finding)).toBe(words))
})
