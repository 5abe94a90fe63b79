import { describe, expect, it } from 'vitest'
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
    const steps = nextSteps({ term, gates, checks: [], unpicked: ['HYD 230'], lineUp: 0, plannedInTerm: 1, openCredits: 600,
      offers: [{ course: 'HRT 230', label: '02', hoursLeft: 31 }], feesDue: null, advisor: 'Hollis Brandt' })
    expect(steps.map(step => [step.id, step.place])).toEqual([['offer:HRT 230', 'register'], ['program', 'now'], ['holds', 'now'], [
      'sign-off',
      'now',
    ], ['pick:HYD 230', 'week'], ['open', 'requirements']])
    expect(steps.slice(0, 4).every(step => step.blocking)).toBe(true)
  })
})
