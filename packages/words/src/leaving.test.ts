import { describe, expect, it } from 'vitest'
import type { Leaving } from '@ridgeway/core/next'
import { sayLeaving } from './leaving'

const leaving = (values: Partial<Leaving> = {}): Leaving => ({ kind: 'drop', until: '2027-01-22', credits: { before: 1200, after: 900 },
  fullTime: { before: true, after: false }, alone: [], planned: [], signedOff: false,
  withdrawn: [], everything: false, ...values })

describe('sayLeaving', () => {
  it('says until when it leaves no trace, what load is left, and where the seat goes', () => {
    expect(sayLeaving(leaving(), 'Spring 2027')).toEqual([
      'Until 22 Jan 2027 it leaves no trace on the record.',
      '9 of 12 credits are left, which is no full-time load any more.',
      'Whoever waits for the seat is offered it; to come back you would need another.'])
  })
  it('says the W, who stays alone, what waits for it, and the sign-off', () => {
    const said = sayLeaving(leaving({ kind: 'withdraw', withdrawn: ['AAA 100', 'EEE 100'], alone: ['BBB 100'], planned: ['CCC 200',
      'DDD 200'], signedOff: true }), 'Spring 2027')
    expect(said[0]).toBe('The last day to drop is over: AAA 100 and EEE 100 stay on the record with a W, until 22 Jan 2027.')
    expect(said).toContain('BBB 100 goes with it and cannot stay registered alone.')
    expect(said).toContain('Planned for later and asking for it: CCC 200 and DDD 200.')
    expect(said.join(' ')).toContain('Your advisor signed it off')
  })
  it('says what money comes back, who waits, and when nothing stays registered', () => {
    const said = sayLeaving(leaving({ everything: true }), 'Spring 2027',
      { back: [{ course: 'AAA 100', cents: 32100, percent: 50 }], waiting: 3 })
    expect(said).toContain('Nothing of Spring 2027 stays registered: you leave the term.')
    expect(said).toContain('321.00 comes off your account: 50 % of the tuition of AAA 100.')
    expect(said.at(-1)).toBe('3 people wait for a seat: the first is offered yours.')
    expect(sayLeaving(leaving(), 'Spring 2027', { back: [{ course: 'AAA 100', cents: 0, percent: 0 }], waiting: 0 }).slice(-2))
      .toEqual(['No money comes back any more.', 'Nobody waits for the seat: it is free for everybody at once.'])
  })
  it('sends to the office when both days are over', () => {
    expect(sayLeaving(leaving({ kind: 'closed', until: null }), 'Spring 2027')[0])
      .toBe('The last day to withdraw from a course of Spring 2027 is over. Ask the registrar\'s office.')
  })
})
