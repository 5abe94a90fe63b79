import { describe, expect, it } from 'vitest'
import type { Leaving } from '@ridgeway/core/next'
import { sayLeaving } from './leaving'

const leaving = (values: Partial<Leaving> = {}): Leaving => ({ kind: 'drop', until: '2027-01-22', credits: { before: 1200, after: 900 },
  fullTime: { before: true, after: false }, alone: [], planned: [], signedOff: false, ...values })

describe('sayLeaving', () => {
  it('says until when it leaves no trace, what load is left, and where the seat goes', () => {
    expect(sayLeaving(leaving(), ['AAA 100'], 'Spring 2027')).toEqual([
      'Until 22 Jan 2027 it leaves no trace on the record.',
      '9 of 12 credits are left, which is no full-time load any more.',
      'Whoever waits for the seat is offered it; to come back you would need another.'])
  })
  it('says the W, who stays alone, what waits for it, and the sign-off', () => {
    const said = sayLeaving(leaving({ kind: 'withdraw', alone: ['BBB 100'], planned: ['CCC 200', 'DDD 200'], signedOff: true }),
      ['AAA 100', 'EEE 100'], 'Spring 2027')
    expect(said[0]).toBe('The last day to drop is over: AAA 100 and EEE 100 stays on the record with a W, until 22 Jan 2027.')
    expect(said).toContain('BBB 100 goes with it and cannot stay registered alone.')
    expect(said).toContain('Planned for later and asking for it: CCC 200 and DDD 200.')
    expect(said.join(' ')).toContain('Your advisor signed it off')
  })
  it('sends to the office when both days are over', () => {
    expect(sayLeaving(leaving({ kind: 'closed', until: null }), ['AAA 100'], 'Spring 2027')[0])
      .toBe('The last day to withdraw from a course of Spring 2027 is over. Ask the registrar\'s office.')
  })
})
