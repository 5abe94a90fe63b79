import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { PlanCheck } from '../planning/checks'
import type { Finding } from '../registration/findings'
import type { Gate } from '../registration/gates'
import { type NextStep, nextSteps, type StepsInput } from './next-steps'

describe('nextSteps', () => {
  const term = { code: '2027SP', name: 'Spring 2027' }
  const gates: Gate[] = [
    { kind: 'program', open: false, term, program: 'BS' },
    { kind: 'holds', open: false, term, holds: [{ reason: 'Library', contact: 'the desk', placed: '' }] },
    { kind: 'sign-off', open: false, term, signed: null, asked: false, advisor: null },
  ]
  it('puts what blocks first and names the place of each', () => {
    const steps = nextSteps({ term, gates, checks: [], unpicked: ['HYD 230'], lineUp: [], moved: [], plannedInTerm: 1, openCredits: 600,
      offers: [{ course: 'HRT 230', label: '02', hoursLeft: 31 }], feesDue: null, advisor: 'Hollis Brandt' })
    expect(steps.map(step => [step.id, step.place])).toEqual([['offer:HRT 230-02', 'register'], ['program', 'now'], ['holds', 'now'], [
      'sign-off',
      'now',
    ], ['pick:HYD 230', 'week'], ['open', 'requirements']])
    expect(steps.slice(0, 4).every(step => step.blocking)).toBe(true)
  })

  it('asks for money when it is due, before all but an offer when it is overdue, and tells of a registration that was voided', () => {
    const due = { cents: 64200, by: '2027-01-04', overdue: false, voidAfter: '2027-01-07' }
    const input = { term, gates, moved: [], checks: [], unpicked: [], lineUp: [], plannedInTerm: 1, openCredits: 0, offers: [],
      advisor: null }
    expect(nextSteps({ ...input, feesDue: due }).at(-1)).toMatchObject({ code: 'pay', place: 'account', blocking: false })
    expect(nextSteps({ ...input, feesDue: { ...due, overdue: true } })[0]).toMatchObject({ code: 'pay', blocking: true })
    expect(nextSteps({ ...input, feesDue: null, voidedOn: '2027-01-08' })[0]).toMatchObject({ code: 'voided', on: '2027-01-08' })
  })

  const clash = { kind: 'overlap' as const, date: '2027-01-19', minutes: 75 }
  const open: Gate[] = [{ kind: 'opening', open: true, term, from: null, words: '' } as unknown as Gate]
  const quiet = { term, gates: open, moved: [], checks: [], unpicked: [], plannedInTerm: 2, openCredits: 0, offers: [], feesDue: null,
    advisor: null }
  const clashWith = (course: string): Finding =>
    ({ ok: false, code: 'clash', course, label: '01', state: 'in the line-up', clash: clash as never })

  it('offers to register only what the dry run would, and says a clash once for its two courses', () => {
    const steps = nextSteps({ ...quiet, lineUp: [{ course: 'HYD 230', refusal: clashWith('ECL 210') },
      { course: 'ECL 210', refusal: clashWith('HYD 230') }, { course: 'STT 201', refusal: null }] })
    expect(steps.map(step => [step.id, step.place])).toEqual([['refused:HYD 230', 'week'], ['register', 'register']])
    expect(steps[1]).toMatchObject({ code: 'register', courses: 1 })
    expect(nextSteps({ ...quiet, lineUp: [{ course: 'HYD 230', refusal: clashWith('ECL 210') },
      { course: 'ECL 210', refusal: clashWith('HYD 230') }] }).map(step => step.code)).toEqual(['refused'])
  })
  it('does not repeat what a plan check says of the course already', () => {
    const finding: Finding = { ok: false, code: 'prerequisite', needs: [], first: null }
    const check = { id: 'c', kind: 'prerequisite', severity: 'blocker', itemId: 'i', course: 'HYD 230', term: '2027SP', in: term,
      needs: [] }
    const refused = { ...quiet, lineUp: [{ course: 'HYD 230', refusal: finding }] }
    expect(nextSteps({ ...refused, checks: [check as PlanCheck] }).map(step => step.code)).toEqual(['mend'])
    expect(nextSteps(refused).map(step => [step.code, step.place])).toEqual([['refused', 'plan']])
  })
  it('says partners once, and sends them where the reason of the first is mended', () => {
    const because: Finding = { ok: false, code: 'section-cancelled', course: 'CHY 310', label: '01' }
    const steps = nextSteps({ ...quiet, lineUp: [{ course: 'CHY 310', refusal: because },
      { course: 'CHY 311', refusal: { ok: false, code: 'partner-refused', course: 'CHY 311', partner: 'CHY 310', because: [because] } }] })
    expect(steps.map(step => [step.about, step.place])).toEqual([['CHY 310', 'week']])
  })
})

/** Most pressing first, as the page shows it: what is lost by waiting, what keeps the term closed, what can be done, what can wait. */
const ORDER: NextStep['code'][] = ['section gone', 'seat offer', 'pay', 'voided', 'confirm program', 'clear hold', 'mend', 'plan term',
  'returned', 'suggestions', 'sign-off asked', 'ask sign-off', 'read comments', 'request declined', 'meeting', 'choose section', 'refused',
  'moved', 'accept terms', 'register', 'off path', 'cover open']
const term = { code: '2027SP', name: 'Spring 2027' }
const code = fc.constantFrom('AAA 100', 'BBB 200', 'CCC 300', 'DDD 400')
const label = fc.constantFrom('01', '02')
const codes = fc.uniqueArray(code, { maxLength: 4 })
const anyGates = fc.record({ program: fc.boolean(), holds: fc.boolean(), signed: fc.boolean(), asked: fc.boolean(), terms: fc.boolean(),
  opening: fc.boolean(), over: fc.boolean() }).map(({ program, holds, signed, asked, terms, opening, over }): Gate[] => [
  { kind: 'program', open: program, term, program: 'BS' },
  { kind: 'holds', open: holds, term, holds: holds ? [] : [{ reason: 'Library', contact: 'the desk', placed: '' }] },
  { kind: 'sign-off', open: signed, term, signed: signed ? { by: 'Hollis', on: '2026-11-01' } : null, asked, advisor: null },
  { kind: 'terms', open: terms, term, accepted: terms ? '2026-11-01' : null },
  { kind: 'opening', open: opening, term, from: '2026-11-10T16:00:00.000Z', zone: 'UTC', who: 'everybody' },
  ...over ? [{ kind: 'closing' as const, open: false, term, by: '2027-01-20' }] : [],
])
const anyCheck = fc.record({ kind: fc.constantFrom('past the wished finish' as const, 'counts for nothing' as const), course: code,
  term: fc.constantFrom('2027SP', '2027FA') }).map(({ kind, course, term: where }) => ({ id: `${kind} ${course} ${where}`, kind, course,
  term: where, itemId: course, severity: kind === 'counts for nothing' ? 'note' : 'blocker' }) as unknown as PlanCheck)
const cancelled: Finding = { ok: false, code: 'section-cancelled', course: 'AAA 100', label: '01' }
const anyInput: fc.Arbitrary<StepsInput> = fc.record({
  gates: anyGates, checks: fc.uniqueArray(anyCheck, { maxLength: 10, selector: check => check.id }), unpicked: codes,
  lineUp: codes.chain(list => fc.tuple(...list.map(course => fc.boolean().map(fine => ({ course, refusal: fine ? null : cancelled }))))),
  moved: codes.map(list => list.map(course => ({ course, label: '01', before: [], now: [] }))), plannedInTerm: fc.nat(2),
  openCredits: fc.constantFrom(0, 300), offers: fc.uniqueArray(fc.record({ course: code, label, hoursLeft: fc.constant(20) }),
    { maxLength: 4, selector: one => `${one.course} ${one.label}` }),
  gone: codes.map(list => list.map(course => ({ course, label: '01' }))),
  feesDue: fc.option(fc.boolean().map(overdue => ({ cents: 100, by: '2027-01-04', overdue, voidAfter: null }))), term: fc.constant(term),
  voidedOn: fc.option(fc.constant('2027-01-08')), advisor: fc.constant(null),
  returned: fc.option(fc.constant({ by: 'Hollis', words: 'x', withdrawn: false })), suggestions: fc.nat(2), unread: fc.nat(2),
  answered: fc.nat(2).map(n => Array.from({ length: n }, (_, id) => ({ id, asked: { kind: 'load' as const, term: '2027SP', credits: 1900 },
    by: null, words: '' }))),
  meeting: fc.option(fc.constant({ start: '2026-11-30T16:00:00.000Z', minutes: 20, place: 'Room 4', advisorName: 'Hollis' })),
})

describe('whatever there is to do', () => {
  it('stands there once each, in one order, with its own key', () => fc.assert(fc.property(anyInput, (input) => {
    const steps = nextSteps(input)
    expect(new Set(steps.map(step => step.id)).size).toBe(steps.length)
    // Fees that are not overdue and problems of later terms can wait.
    const rank = (step: NextStep) => (step.code === 'pay' && !step.overdue) || (step.code === 'mend' && step.term === null)
      ? ORDER.indexOf('register') + 0.5
      : ORDER.indexOf(step.code)
    const ranks = steps.map(rank)
    expect(ranks).toEqual([...ranks].sort((a, b) => a - b))
  }), { numRuns: 300 }))

  it('is there exactly while it is to be done', () => fc.assert(fc.property(anyInput, (input) => {
    const found = (wanted: NextStep['code']) => nextSteps(input).filter(step => step.code === wanted)
    const closed = (kind: Gate['kind']) => input.gates.some(gate => gate.kind === kind && !gate.open)
    expect(found('seat offer')).toHaveLength(input.offers.length)
    expect(found('section gone').map(step => step.about)).toEqual(input.gone!.map(one => one.course))
    expect(found('confirm program')).toHaveLength(closed('program') ? 1 : 0)
    expect(found('clear hold')).toHaveLength(closed('holds') ? 1 : 0)
    expect(found('accept terms')).toHaveLength(closed('terms') ? 1 : 0)
    expect(found('plan term')).toHaveLength(input.plannedInTerm === 0 ? 1 : 0)
    expect([...found('ask sign-off'), ...found('sign-off asked')]).toHaveLength(closed('sign-off') && input.plannedInTerm > 0 ? 1 : 0)
    expect(found('mend').filter(step => step.code === 'mend' && step.term)).toHaveLength(
      input.checks.filter(check => check.severity === 'blocker' && check.term === term.code).length)
    // A course with a seat offer, or whose section was cancelled, has a step of its own.
    const told = [...input.gone!, ...input.offers].map(one => one.course)
    expect(found('choose section').map(step => step.about)).toEqual(input.unpicked.filter(course => !told.includes(course)))
    const ready = input.lineUp.filter(row => row.refusal === null).length
    expect(found('register')).toHaveLength(ready > 0 && !closed('opening') && !closed('closing') ? 1 : 0)
    expect(found('pay')).toHaveLength(input.feesDue ? 1 : 0)
    expect(found('cover open')).toHaveLength(input.openCredits > 0 ? 1 : 0)
  }), { numRuns: 300 }))
})
