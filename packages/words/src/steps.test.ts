import { describe, expect, it } from 'vitest'
import { type Draft, type DraftReason, EMPTY_PLAN, type Plan, type PlanOperation } from '@ridgeway/core/planning'
import type { NextStep } from '@ridgeway/core/next'
import { sayDraft, sayDraftReason } from './drafts'
import { sayOperation, sayProposal } from './plans'
import { sayStep } from './steps'

const term = { code: '2027SP', name: 'Spring 2027' }
const common = { id: 'x', place: 'now' as const, about: 'a', blocking: false }
const AT = '2026-11-30T16:00:00.000Z'
const meeting = { days: ['M' as const], start: 570, end: 645, first: '2027-01-11', last: '2027-04-23', site: 'main', room: 'B 12' }

/** Every step there is besides those that stand with what they rest on, which findings, gates and checks say. */
const STEPS: [NextStep, string, string][] = [
  [{ ...common, code: 'confirm program', gate: { kind: 'program', open: false, term, program: 'Watershed Science' } },
    'Confirm your program', 'Watershed Science, not confirmed'],
  [{ ...common, code: 'clear hold', gate: { kind: 'holds', open: false, term,
    holds: [{ reason: 'library fine', contact: 'the library', placed: '2026-11-01' }] } },
  'Clear the hold', 'library fine. Contact the library to clear it.'],
  [{ ...common, code: 'plan term', term }, 'Plan Spring 2027', 'Nothing is placed in this term yet.'],
  [{ ...common, code: 'ask sign-off', advisor: 'Noor Hollis', term }, 'Ask Noor Hollis to sign off Spring 2027',
    'Registration stays closed until then.'],
  [{ ...common, code: 'returned', by: 'Noor Hollis', words: 'Too much at once.', withdrawn: false, term },
    'Noor Hollis asks for changes in Spring 2027', 'Too much at once.'],
  [{ ...common, code: 'returned', by: 'Noor Hollis', words: 'Come by.', withdrawn: true, term },
    'Noor Hollis withdrew the sign-off for Spring 2027', 'Come by.'],
  [{ ...common, code: 'suggestions', count: 1, advisor: null }, 'Your advisor suggests 1 change',
    'It stands beside your plan. Take it or not.'],
  [{ ...common, code: 'suggestions', count: 2, advisor: 'Noor Hollis' }, 'Noor Hollis suggests 2 changes',
    'They stand beside your plan. Take them or not, one by one.'],
  [{ ...common, code: 'read comments', count: 1 }, '1 comment to read', 'Written beside your plan.'],
  [{ ...common, code: 'request declined', asked: { kind: 'load', term: '2027SP', credits: 1950 }, by: null, words: 'Not this term.' },
    'The college did not grant 19.5 credits in Spring 2027', 'Not this term.'],
  [{ ...common, code: 'meeting', start: AT, minutes: 20, where: 'Room 4', advisor: 'Noor Hollis' }, 'Meet Noor Hollis',
    'Mon 30 Nov, 16:00, 20 minutes, Room 4.'],
  [{ ...common, code: 'choose section', course: 'AAA 100' }, 'Choose a section for AAA 100', 'It is planned, but has no bundle yet.'],
  [{ ...common, code: 'moved', moved: { course: 'AAA 100', label: '02', before: [meeting], now: [{ ...meeting, start: 780, end: 855 }] } },
    'AAA 100-02 was moved',
    'It meets M 13:00–14:15 in B 12 now, and met M 9:30–10:45 in B 12 when you picked it. Keep it, or choose another bundle.'],
  [{ ...common, code: 'accept terms', term }, 'Accept the terms of registration', 'For Spring 2027, once.'],
  [{ ...common, code: 'register', courses: 4 }, 'Register 4 courses', 'Registration is open for you.'],
  [{ ...common, code: 'voided', term, on: '2027-01-20' }, 'Your registration for Spring 2027 was voided',
    'It was unpaid on 20 Jan 2027. What is still open can be registered again; pay it with the press.'],
  [{ ...common, code: 'section gone', course: 'AAA 100', label: '02', offered: true }, 'AAA 100-02 was cancelled',
    'What was charged for it was given back. A seat in another bundle is held for you: take it under Register.'],
  [{ ...common, code: 'section gone', course: 'AAA 100', label: '02', offered: false }, 'AAA 100-02 was cancelled',
    'What was charged for it was given back. Choose another bundle, or another course.'],
]

describe('what to do next', () => {
  it.each(STEPS)('%j', (step, title, words) => expect(sayStep(step)).toEqual({ title, words }))
})

const plan: Plan = { ...EMPTY_PLAN,
  entries: [{ id: 'a', course: 'HYD 310', term: '2027FA', credits: 300, pinned: false, pinnedUse: null, note: '' }],
  placeholders: [{ id: 'p', line: 'WSC-BS/voices', term: '2027FA', credits: 300, note: '' }] }
const OPERATIONS: Record<PlanOperation['kind'], [PlanOperation, string, string][]> = {
  'place': [[{ kind: 'place', entry: 'b', course: 'AAA 100', term: '2028SP', credits: 300 },
    'placed AAA 100 in Spring 2028', 'place AAA 100 in Spring 2028']],
  'hold': [[{ kind: 'hold', entry: 'q', line: 'WSC-BS/voices', term: '2028SP', credits: 300 },
    'held a place in Spring 2028', 'hold a place in Spring 2028']],
  'move': [[{ kind: 'move', entry: 'a', term: '2028FA' }, 'moved HYD 310 to Fall 2028', 'move HYD 310 to Fall 2028'],
    [{ kind: 'move', entry: 'p', term: '2028FA' }, 'moved a place to choose to Fall 2028', 'move a place to choose to Fall 2028']],
  'remove': [[{ kind: 'remove', entry: 'a' }, 'took HYD 310 out', 'take HYD 310 out'],
    // An id that says nothing of a course.
    [{ kind: 'remove', entry: 'gone' }, 'took a course out', 'take a course out']],
  'pin': [[{ kind: 'pin', entry: 'a', pinned: true }, 'pinned HYD 310', 'pin HYD 310'],
    [{ kind: 'pin', entry: 'a', pinned: false }, 'unpinned HYD 310', 'unpin HYD 310']],
  'pin use': [[{ kind: 'pin use', entry: 'a', line: 'WSC-BS/voices' }, 'pinned the use of HYD 310', 'pin the use of HYD 310'],
    [{ kind: 'pin use', entry: 'a', line: null }, 'unpinned the use of HYD 310', 'unpin the use of HYD 310']],
  'credits': [[{ kind: 'credits', entry: 'a', credits: 450 }, 'set HYD 310 to 4.5 credits', 'take HYD 310 for 4.5 credits']],
  'note': [[{ kind: 'note', entry: 'a', note: 'with lab' }, 'wrote a note on HYD 310', 'a note on HYD 310: with lab']],
  'wishes': [[{ kind: 'wishes', wishes: plan.wishes }, 'changed the wishes', 'other wishes for the terms ahead']],
  'plan note': [[{ kind: 'plan note', note: 'slowly' }, 'wrote a note on the plan', 'a note on the plan: slowly']],
  'term note': [[{ kind: 'term note', term: '2028SP', note: 'abroad' }, 'wrote a note on Spring 2028', 'a note on Spring 2028: abroad']],
}

describe('operations on a plan', () => {
  it.each(Object.values(OPERATIONS).flat())('%j', (operation, done, proposed) =>
    expect([sayOperation(operation, plan), sayProposal(operation, plan)]).toEqual([done, proposed]))
})

describe('drafts', () => {
  const draft = (loads: [term: string, credits: number][]): Draft => ({ kind: 'soonest', operations: [], placed: [], moved: [],
    finish: '2028FA', bound: '2028FA', shortest: true, gap: 0, peak: 1500,
    loads: loads.map(([code, credits]) => ({ term: code, credits, summer: code.endsWith('SU') })) })
  it('come to a finish and a load; summers and terms without a course say nothing of the load', () => {
    expect(sayDraft(draft([]))).toBe('finish Fall 2028')
    expect(sayDraft(draft([['2027SP', 1500], ['2027SU', 300], ['2027FA', 0]]))).toBe('finish Fall 2028, 15 credits a term')
    expect(sayDraft(draft([['2027SP', 1500], ['2027FA', 1250]]))).toBe('finish Fall 2028, 12.5 to 15 credits a term')
  })

  it.each<[DraftReason, string]>([
    [{ code: 'conflict', proved: true, constraints: [{ code: 'summers free' }], lacking: [{ code: 'before', course: 'AAA 300' }] },
      'Keeping summers free alone makes it impossible: nothing comes in time for what AAA 300 in the plan needs first.'],
    [{ code: 'conflict', proved: false, constraints: [{ code: 'all as placed' }, { code: 'term off', term: '2027SP' },
      { code: 'pinned', course: 'AAA 100', term: '2027FA' }], lacking: [] },
    'Leaving everything placed where it is, nothing in Spring 2027 and AAA 100 pinned in Fall 2027 cannot hold together. '
    + 'That is as far as was searched; there may be a way that was not found.'],
    [{ code: 'no way found', proved: false, constraints: [{ code: 'finish by', term: '2028SP' }, { code: 'load', credits: 1200 }] },
      'No way was found that keeps all of this: finishing by Spring 2028 and at most 12 credits a term.'],
    [{ code: 'lost', proved: true,
      lines: [{ title: 'Fields', program: 'P', lost: { reasons: [{ code: 'in no term ahead', course: 'AAA 100' }] } }] },
    'Fields (P): AAA 100 is in no term ahead. Ask your advisor for a substitution or a waiver.'],
    [{ code: 'no course found', proved: false, lacking: [{ code: 'rule', title: '', program: 'P' }], last: null,
      shared: [{ programs: ['P', 'Q'], courses: 2, credits: null }] },
    'No course was found for the credits in all of P. At most 2 courses may count in both P and Q.'],
    [{ code: 'calendar too short', proved: true, last: term },
      'What is open does not fit into the terms up to Spring 2027, the last in the academic calendar.'],
    [{ code: 'no place found', proved: false },
      'Courses were found for everything that is open, but no way to place them keeps every rule. '
      + 'Take a pin off, or allow more terms or credits.'],
  ])('%j are not possible', (reason, words) => expect(sayDraftReason(reason)).toBe(words))
})
