import { describe, expect, it } from 'vitest'
import { sayDue, sayMoney, sayMoneyKind, sayStep } from '.'

describe('money in words', () => {
  it('is said in whole cents with its thousands apart', () => {
    expect(sayMoney(335500)).toBe('3,355.00')
    expect(sayMoney(5)).toBe('0.05')
    expect(sayMoneyKind('void')).toBe('Taken back, registration voided')
  })
  it.each([
    [{ by: '2027-01-04', overdue: false, voidAfter: null }, 'Due by 4 Jan 2027.'],
    [{ by: '2027-01-04', overdue: true, voidAfter: null }, 'It was due by 4 Jan 2027; a hold stands until it is paid.'],
    [{ by: '2027-01-04', overdue: false, voidAfter: '2027-01-07' },
      'Due by 4 Jan 2027; a registration that is unpaid after 7 Jan 2027 is voided.'],
    [{ by: '2027-01-04', overdue: true, voidAfter: '2027-01-07' },
      'It was due by 4 Jan 2027: pay by 7 Jan 2027, or the registration is voided and the seats go to those who wait.'],
  ])('says when something is due and what follows: %o', (due, words) => expect(sayDue(due)).toBe(words))
  it('says what to do next', () => {
    const step = { id: '', place: 'account' as const, about: '', blocking: true }
    expect(sayStep({ ...step, code: 'pay', cents: 10000, by: '2027-01-04', overdue: false, voidAfter: null }))
      .toEqual({ title: 'Pay 100.00', words: 'Due by 4 Jan 2027.' })
    expect(sayStep({ ...step, code: 'voided', term: { code: '2027SP', name: 'Spring 2027' }, on: '2027-01-08' }).title)
      .toBe('Your registration for Spring 2027 was voided')
  })
})
