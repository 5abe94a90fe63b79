import { describe, expect, it } from 'vitest'
import type { PlanCheck } from '../planning/checks'
import type { Finding } from '../registration/findings'
import type { Gate } from '../registration/gates'
import { nextSteps } from './next-steps'

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
    expect(steps.map(step => [step.id, step.place])).toEqual([['offer:HRT 230', 'register'], ['program', 'now'], ['holds', 'now'], [
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
