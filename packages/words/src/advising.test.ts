import { describe, expect, it } from 'vitest'
import type { Effect, ExceptionAsked, ExceptionKind, Need, NeedCode, Notice } from '@ridgeway/core/advising'
import type { PlanCheck } from '@ridgeway/core/planning'
import { sayDifferences, sayEffect, sayException, sayExceptionKind, sayNeed, sayNotice, saySelfCheck, writeMail } from './advising'

const ZONE = 'America/Halifax'
/** Noon of a Monday in the college's zone is four hours later in UTC. */
const MONDAY = '2026-11-30T16:00:00.000Z'
const check = (id: string): PlanCheck => ({ id, severity: 'blocker', kind: 'counts for nothing', itemId: id, course: id, term: '2027SP' })

/** Every need there is: a new one has no words until it stands here. */
const NEEDS: Record<NeedCode, [Need, string][]> = {
  'sign-off asked': [[{ code: 'sign-off asked', at: MONDAY }, 'asks for sign-off']],
  'exceptions asked': [[{ code: 'exceptions asked', count: 1 }, 'asks for an exception'],
    [{ code: 'exceptions asked', count: 3 }, 'asks for 3 exceptions']],
  'opens unsigned': [[{ code: 'opens unsigned', from: MONDAY, open: false }, 'opens Mon 12:00, not signed off'],
    [{ code: 'opens unsigned', from: MONDAY, open: true }, 'open since Mon 12:00, not signed off']],
  'blockers': [[{ code: 'blockers', count: 1 }, '1 problem in the term'], [{ code: 'blockers', count: 2 }, '2 problems in the term']],
  'program asked': [[{ code: 'program asked' }, 'asks to change program']],
  'changed after sign-off': [[{ code: 'changed after sign-off', added: ['AAA 100', 'BBB 100'], gone: ['CCC 100'] },
    'changed since sign-off: + AAA 100, + BBB 100, – CCC 100']],
  'finish slipped': [[{ code: 'finish slipped', from: '2028SP', to: '2028FA' }, 'finish slipped: Spring 2028 → Fall 2028'],
    [{ code: 'finish slipped', from: '2028SP', to: null }, 'no finish any more, was Spring 2028']],
  'comments': [[{ code: 'comments', count: 1 }, '1 unread comment']],
  'hold': [[{ code: 'hold', count: 1, reason: 'library fine' }, 'hold: library fine'],
    [{ code: 'hold', count: 2, reason: 'library fine' }, '2 holds']],
  'gpa': [[{ code: 'gpa', now: 187, asked: 200 }, 'GPA 1.87, 2.00 asked']],
  'unconfirmed': [[{ code: 'unconfirmed' }, 'program not confirmed']],
  'no plan': [[{ code: 'no plan' }, 'nothing planned']],
  'off path': [[{ code: 'off path', credits: 450 }, '4.5 cr count for nothing']],
  'silent': [[{ code: 'silent', days: 40 }, 'silent for 40 days']],
}

describe('why an advisee needs the advisor', () => {
  it.each(Object.values(NEEDS).flat())('%j reads "%s"', (need, words) => expect(sayNeed(need, ZONE)).toBe(words))
})

describe('the self-check', () => {
  const said = (values: Partial<Parameters<typeof saySelfCheck>[0]>) =>
    saySelfCheck({ open: 0, blockers: 0, later: 0, credits: 1500, fullTime: true, offPath: [], ...values })
  it('says of a plan in order that it is, line by line', () => {
    expect(said({})).toEqual([
      { words: 'Every requirement is covered', fine: true },
      { words: 'Prerequisites come in order, nothing blocks', fine: true },
      { words: '15 credits, full-time: as you mean it?', fine: true },
      { words: 'Every course counts', fine: true },
    ])
  })

  it.each<[Parameters<typeof said>[0], string]>([
    [{ open: 350 }, '3.5 credits of the requirements have no course yet'],
    [{ blockers: 1 }, '1 problem in the term'],
    [{ later: 2 }, '2 problems later'],
    [{ blockers: 2, later: 1 }, '2 problems in the term, 1 problem later'],
    [{ offPath: ['AAA 100'] }, 'AAA 100 counts for nothing yet'],
    [{ offPath: ['AAA 100', 'BBB 100', 'CCC 100'] }, 'AAA 100, BBB 100 and CCC 100 count for nothing yet'],
  ])('%j marks one line: %s', (values, words) => {
    expect(said(values).filter(line => !line.fine)).toEqual([{ words, fine: false }])
  })
})

describe('what a change comes to', () => {
  it('tells how a term differs from what was agreed', () => {
    expect(sayDifferences({ added: [], gone: [], resized: [] })).toBe('')
    expect(sayDifferences({ added: ['AAA 100'], gone: ['BBB 100'], resized: [{ course: 'CCC 100', before: 300, now: 150 }] }))
      .toBe('AAA 100 was added; BBB 100 was taken out; CCC 100 has 1.5 cr instead of 3')
  })

  const effect = (values: Partial<Effect>): string[] =>
    sayEffect({ finish: ['2028SP', '2028SP'], open: [600, 600], mended: [], broken: [], loads: [], ...values })
  it.each<[Partial<Effect>, string[]]>([
    [{}, ['no new problem', 'finish Spring 2028, as before']],
    [{ mended: [check('a')] }, ['mends 1 problem', 'finish Spring 2028, as before']],
    // What is broken is said, whatever is mended beside it.
    [{ mended: [check('a')], broken: [check('b'), check('c')] }, ['2 new problems', 'finish Spring 2028, as before']],
    [{ finish: ['2028SP', '2027FA'] }, ['no new problem', 'finish Fall 2027, was Spring 2028']],
    [{ finish: [null, '2027FA'] }, ['no new problem', 'finish Fall 2027']],
    [{ finish: [null, null] }, ['no new problem', 'not all covered yet']],
    [{ finish: ['2028SP', null], open: [0, 300] }, ['no new problem', 'not all covered any more', '3 cr open again']],
    [{ open: [600, 150], loads: ['2027SP', '2027SU', '2027FA', '2028SP'].map(term => ({ term, before: 900, after: 1200 })) },
      ['no new problem', 'finish Spring 2028, as before', 'covers 4.5 cr more', 'Spring 2027 12 cr', 'Summer 2027 12 cr',
        'Fall 2027 12 cr']],
  ])('%j', (values, parts) => expect(effect(values)).toEqual(parts))
})

describe('exceptions', () => {
  const ASKED: Record<ExceptionKind, [ExceptionAsked, string, string][]> = {
    'prerequisite': [[{ kind: 'prerequisite', course: 'AAA 200', term: '2027SP' }, '', 'AAA 200 without its prerequisite']],
    'late add': [[{ kind: 'late add', course: 'AAA 200', term: '2027SP' }, '', 'AAA 200 added after the last day']],
    'restriction': [[{ kind: 'restriction', course: 'AAA 200', term: '2027SP' }, '', 'a section of AAA 200 that is kept for others']],
    'seat': [[{ kind: 'seat', course: 'AAA 200', term: '2027SP', section: 7 }, '', 'a seat of AAA 200 that is kept for others'],
      [{ kind: 'seat', course: 'AAA 200', term: '2027SP', section: 7 }, '02', 'a seat of AAA 200-02 that is kept for others']],
    'clash': [[{ kind: 'clash', course: 'AAA 200', instead: 'BBB 100', term: '2027SP' }, '',
      'AAA 200 and BBB 100 although they meet at the same time']],
    'load': [[{ kind: 'load', term: '2027SP', credits: 1950 }, '', '19.5 credits in Spring 2027']],
    'substitution': [[{ kind: 'substitution', program: 'P', line: 'l', course: 'AAA 200', instead: 'BBB 100' }, '',
      'AAA 200 in place of BBB 100 counts'],
    [{ kind: 'substitution', program: 'P', line: 'l', course: 'AAA 200', instead: null }, '', 'AAA 200 counts']],
    'waiver': [[{ kind: 'waiver', program: 'P', line: 'l', course: 'BBB 100' }, '', 'BBB 100 is waived'],
      [{ kind: 'waiver', program: 'P', line: 'l', course: null, amount: 300 }, '', '3 of the requirement waived'],
      [{ kind: 'waiver', program: 'P', line: 'l', course: null }, '', 'the requirement is waived']],
  }
  it.each(Object.values(ASKED).flat())('%j %s lifts: %s', (asked, label, words) => expect(sayException(asked, label)).toBe(words))

  it('are each called something of their own', () => {
    const names = (Object.keys(ASKED) as ExceptionKind[]).map(sayExceptionKind)
    expect(new Set(names).size).toBe(names.length)
    expect(names.every(name => name.length > 5)).toBe(true)
  })
})

const by = 'Noor Hollis'
const NOTICES: Record<Notice['code'], [Notice, string][]> = {
  'sign-off asked': [[{ by, code: 'sign-off asked', term: '2027SP' },
    'Tamsin Ware asks for sign-off | For Spring 2027. | Look at the plan, then sign off or return it.']],
  'signed off': [[{ by, code: 'signed off', term: '2027SP' },
    'Spring 2027 is signed off | By Noor Hollis. | You may register once your opening comes.']],
  'returned': [[{ by, code: 'returned', term: '2027SP' },
    'Noor Hollis asks for changes | In the plan for Spring 2027. | Read what is asked, change it, and ask for sign-off again.']],
  'sign-off withdrawn': [[{ by, code: 'sign-off withdrawn', term: '2027SP' },
    'The sign-off for Spring 2027 was withdrawn | By Noor Hollis. | Read why under Now.']],
  'comment': [[{ by, code: 'comment', place: 'plan' }, 'Noor Hollis commented on Tamsin Ware\'s plan |  | Read it beside the plan.'],
    [{ by, code: 'comment', place: 'course' }, 'Noor Hollis commented on Tamsin Ware\'s plan, on a course |  | Read it beside the plan.']],
  'suggested': [[{ by, code: 'suggested', count: 1 }, 'Noor Hollis suggests 1 change | It stands beside your plan. | Take it or not.'],
    [{ by, code: 'suggested', count: 3 }, 'Noor Hollis suggests 3 changes | They stand beside your plan. | Take them or not, one by one.']],
  'suggestions answered': [[{ by, code: 'suggestions answered', count: 2 }, 'Tamsin Ware answered 2 suggestions |  | Look at the plan.']],
  'exception asked': [[{ by, code: 'exception asked', kind: 'waiver' },
    'Tamsin Ware asks for a waiver |  | Grant it or decline it in the file.']],
  'exception granted': [[{ by, code: 'exception granted', kind: 'load' },
    'Noor Hollis granted more credits than the cap |  | It holds from now on.']],
  'exception declined': [[{ by, code: 'exception declined', kind: 'clash' },
    'Noor Hollis declined a clash of two courses |  | Read why under Now.']],
  'exception ended': [[{ by, code: 'exception ended', kind: 'late add' },
    'Noor Hollis took back adding late |  | Look whether your line-up still stands.']],
  'program asked': [[{ by, code: 'program asked' }, 'Tamsin Ware asks to change program |  | Answer it in the file.']],
  'program answered': [[{ by, code: 'program answered' },
    'Noor Hollis answered your wish to change program |  | Read it under Requirements.']],
  'meeting booked': [[{ by, code: 'meeting booked', start: MONDAY, minutes: 20 },
    'Noor Hollis booked a meeting | Mon 30 Nov, 12:00, 20 minutes. | ']],
  'meeting moved': [[{ by, code: 'meeting moved', start: MONDAY, minutes: 20 },
    'Noor Hollis moved the meeting | Now Mon 30 Nov, 12:00, 20 minutes. | ']],
  'meeting cancelled': [[{ by, code: 'meeting cancelled', start: MONDAY, minutes: 20 },
    'Noor Hollis cancelled the meeting | It was Mon 30 Nov, 12:00. | Book another time if you still need it.']],
  'section cancelled': [
    [{ by, code: 'section cancelled', offered: false, waited: true },
      'A section that you waited for was cancelled |  | Choose another bundle in Week.'],
    [{ by, code: 'section cancelled', offered: true, waited: false }, 'A section that you registered for was cancelled | '
    + 'What was charged for it was given back. | A seat in another bundle is held for you under Register.'],
    [{ by, code: 'section cancelled', offered: false, waited: false }, 'A section that you registered for was cancelled | '
    + 'What was charged for it was given back. | Choose another bundle in Week.']],
  'hold placed': [[{ by, code: 'hold placed' }, 'A hold stands on your registration |  | Read under Now whom to see.']],
  'hold cleared': [[{ by, code: 'hold cleared' }, 'A hold was cleared |  | ']],
  'program confirmed': [[{ by, code: 'program confirmed' }, 'Noor Hollis confirmed your program |  | ']],
  'note shared': [[{ by, code: 'note shared' }, 'Noor Hollis shared a note with you |  | Read it under Now.']],
  'advisor changed': [[{ by, code: 'advisor changed' }, 'Tamsin Ware is your advisee now | Changed by Noor Hollis. | ']],
}

describe('notices', () => {
  it.each(Object.values(NOTICES).flat())('%j reads "%s"', (notice, said) => {
    const { title, words, way } = sayNotice(notice, { name: 'Tamsin Ware', isOwn: false, zone: ZONE })
    expect([title, words, way].join(' | ')).toBe(said)
  })

  it('of one\'s own file say so', () => {
    const own = { name: 'Tamsin Ware', isOwn: true, zone: ZONE }
    expect(sayNotice({ by, code: 'comment', place: 'term' }, own).title).toBe('Noor Hollis commented on your plan, on a term')
    expect(sayNotice({ by, code: 'advisor changed' }, own).title).toBe('You have another advisor')
  })
})

describe('mails', () => {
  const to = { name: 'Noor Hollis', college: 'Larkmoor College', address: 'https://plans.example', zone: ZONE }
  const every = Object.values(NOTICES).flat().map(([notice], id) =>
    ({ id, notice: { ...notice, by: 'Tamsin Ware' } as Notice, own: false }))
  it('to those who advise name no student, whatever happened and whoever did it', () => {
    for (const one of every) {
      const { subject, text } = writeMail([one], to)
      expect(`${subject}\n${text}`).not.toMatch(/Tamsin|Ware|AAA|undefined|null|NaN/)
      expect(subject.length).toBeGreaterThan(10)
    }
  })

  it('have one line for each thing, each a sentence, and say where to read it and where to choose', () => {
    const { subject, text } = writeMail(every, to)
    expect(subject).toBe(`${every.length} things are new for you`)
    const lines = text.split('\n').filter(line => line.startsWith('- '))
    expect(lines).toHaveLength(every.length)
    for (const line of lines) expect(line).toMatch(/^- [A-Z].*[^.]\.$/)
    expect(text).toContain('Read it at https://plans.example/messages')
    expect(text.split('\n').at(-1)).toBe('Larkmoor College. How you are told is chosen on the same page.')
  })

  it('to a student name who did it', () => {
    const { subject, text } = writeMail([{ id: 1, notice: { by, code: 'signed off', term: '2027SP' }, own: true }],
      { ...to, name: 'Tamsin Ware' })
    expect(subject).toBe('Spring 2027 is signed off')
    expect(text).toContain('- Spring 2027 is signed off. By Noor Hollis. You may register once your opening comes.')
  })
})
