import { DateTime } from 'luxon'
import { describe, expect, it } from 'vitest'
import { moneyBack, type MoneyPolicy, refundPercent, refundSchedule } from '@ridgeway/core/money'
import { INSTITUTION, TERMS } from '../../demo/calendar'
import { term } from '../builders'

/**
 * The federal refund schedule as it was printed in most catalogs until 2000 (34 CFR 668.22 of 1994 to 2000, its Appendix A; from memory):
 * all of it until the first day of class, then 90 % through the first 10 % of the period, 50 % through 25 %, 25 % through 50 %, nothing
 * after. How the days of a period are counted, with scheduled breaks of five days and more left out, is 34 CFR 668.22(f)(2)(i).
 */
const FEDERAL: Pick<MoneyPolicy, 'refunds'> = { refunds: [{ share: 10, percent: 90 }, { share: 25, percent: 50 }, { share: 50,
  percent: 25 }] }
const days = (from: string, n: number) => Array.from({ length: n }, (_, i) => DateTime.fromISO(from).plus({ days: i }).toISODate()!)
const SPRING_BREAK = days('2027-03-08', 5).map(date => ({ date, name: 'Spring break' }))
const span = { start: '2027-01-11', end: '2027-04-30', dropBy: '2027-01-11', noClass: SPRING_BREAK }

describe('a published refund schedule', () => {
  it('falls on the dates that the rule gives, worked through by hand', () => {
    // 110 days from 11 January to 30 April; the break of five days takes both weekends beside it: 9 days less are 101. A tenth of that is
    // 10.1, so that the tenth day is the last of it: 20 January. A quarter, 25.25: 4 February. A half, 50.5: 1 March.
    expect(refundSchedule(span, FEDERAL)).toEqual([{ until: '2027-01-11', percent: 100 }, { until: '2027-01-20', percent: 90 },
      { until: '2027-02-04', percent: 50 }, { until: '2027-03-01', percent: 25 }])
  })

  it('never gives back a greater share than the rule on any day, counted day by day', () => {
    const free = new Set(days('2027-03-06', 9))
    const counted = days(span.start, 110).filter(date => !free.has(date))
    expect(counted).toHaveLength(101)
    for (const date of days(span.start, 110)) {
      const gone = counted.filter(day => day <= date).length / counted.length
      const rule = date === span.start ? 100 : gone <= 0.1 ? 90 : gone <= 0.25 ? 50 : gone <= 0.5 ? 25 : 0
      expect(refundPercent(span, FEDERAL, date), date).toBe(rule)
    }
  })

  it('does not leave out a holiday of one day, nor Thanksgiving with its weekend', () => {
    const fall = { start: '2026-08-24', end: '2026-12-11', dropBy: '2026-08-24',
      noClass: ['2026-09-07', '2026-11-26', '2026-11-27'].map(date => ({ date, name: '' })) }
    // 110 days, nothing left out: the 55th is 17 October.
    expect(refundSchedule(fall, FEDERAL).at(-1)).toEqual({ until: '2026-10-17', percent: 25 })
  })

  it('on the worked figures of such a catalog: twelve credits at 200.00 given up in the third week', () => {
    const spring = term('2027SP', { ...span, sessions: [{ code: 'full', name: '', start: span.start, end: span.end }] })
    const rows = ['AAA 100', 'BBB 100', 'CCC 100', 'DDD 100'].map(course => ({ course, session: 'full', tuition: 60000, fees: 2500 }))
    // Fees are not refunded once classes have begun.
    expect(moneyBack(rows, spring, FEDERAL, '2027-01-27').reduce((sum, one) => sum + one.cents, 0)).toBe(120000)
  })

  it('of the demonstration\'s college never rises with the days, and its deadlines of half terms lie inside them', () => {
    for (const one of TERMS) {
      for (const session of one.sessions) {
        const { addBy, dropBy, withdrawBy } = session.deadlines ?? one
        expect(addBy <= dropBy && dropBy < withdrawBy && withdrawBy <= session.end && addBy >= session.start, `${one.code} ${session.code}`)
          .toBe(true)
        const steps = refundSchedule({ ...session, dropBy, noClass: one.noClass }, INSTITUTION.money)
        for (const [i, step] of steps.entries()) {
          expect(i === 0 || step.until > steps[i - 1]!.until, `${one.code} ${session.code}`).toBe(true)
          expect(i === 0 || step.percent < steps[i - 1]!.percent).toBe(true)
        }
      }
    }
  })
})
