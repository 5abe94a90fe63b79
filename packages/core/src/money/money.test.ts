import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, meeting, section, term } from '../../../../tests/builders'
import { balancesOf, exchangedBack, moneyBack, type MoneyEntry, type MoneyPolicy, priceOf, readAccount, splitBy, total } from '.'

const POLICY: MoneyPolicy = {
  bands: [{ code: 'resident', name: 'Resident', perCredit: 21400 }, { code: 'visiting', name: 'Visiting', perCredit: 49801 }],
  siteFees: { high: 4500 }, refunds: [{ share: 25, percent: 50 }, { share: 50, percent: 25 }],
  plans: [{ code: 'whole', name: '', parts: [{ days: 0, percent: 100 }] },
    { code: 'three', name: '', parts: [{ days: 0, percent: 40 }, { days: 35, percent: 30 }, { days: 70, percent: 30 }] }],
  lateDays: 7, graceDays: 3,
}
const [WHOLE, THREE] = POLICY.plans as [MoneyPolicy['plans'][0], MoneyPolicy['plans'][0]]
const SPRING = term('2027SP', { start: '2027-01-11', end: '2027-04-30', dropBy: '2027-01-25', feesDue: '2027-01-04',
  sessions: [{ code: 'full', name: '', start: '2027-01-11', end: '2027-04-30' }] })
let id = 0
const entry = (kind: MoneyEntry['kind'], cents: number, date = '2026-11-09'): MoneyEntry => ({ id: ++id, at: `${date}T15:00:00.000Z`, date,
  term: '2027SP', kind, cents, courses: [], reference: '' })
const read = (entries: MoneyEntry[], date: string, plan = WHOLE) => readAccount(entries, { feesDue: SPRING.feesDue, plan, policy: POLICY,
  date })

describe('what a bundle costs', () => {
  it('is its credits at the price of the band, the fee of the course once, of each section, and of each site that it meets at', () => {
    const [lecture, lab] = [section(1, 'AAA 100', { fee: 1000 }), section(2, 'AAA 100', { fee: 500, meetings: [meeting(600,
      { site: 'high' }),
    meeting(700, { site: 'high' })] })]
    expect(priceOf(course('AAA 100', { fee: 2500 }), [lecture, lab], 400, 'resident', POLICY))
      .toEqual({ tuition: 85600, fees: 2500 + 1000 + 500 + 4500 })
  })
  it('asks what a band asks, in whole cents, and the first band of somebody whose band nobody knows', () => {
    expect(priceOf(course('AAA 100'), [], 150, 'visiting', POLICY).tuition).toBe(74702)
    expect(priceOf(course('AAA 100'), [], 100, 'elsewhere', POLICY).tuition).toBe(21400)
  })
})

describe('what comes back', () => {
  const rows = [{ course: 'AAA 100', session: 'full', tuition: 64200, fees: 3000 }]
  it.each([['2027-01-25', 67200], ['2027-01-26', 32100], ['2027-03-06', 16050], ['2027-03-07', 0]])('on %s is %i', (date, cents) => {
    expect(moneyBack(rows, SPRING, POLICY, date)).toMatchObject([{ cents }])
  })
  it('of an even exchange is all of it at any time; only what goes beyond follows the schedule', () => {
    expect(exchangedBack(rows, { tuition: 64200, fees: 3000 }, SPRING, POLICY, '2027-03-20')).toEqual([{ course: 'AAA 100', cents: 67200,
      percent: 0 }])
    expect(exchangedBack(rows, { tuition: 21400, fees: 0 }, SPRING, POLICY, '2027-01-26')).toEqual([{ course: 'AAA 100',
      cents: 21400 + 21400, percent: 50 }])
  })
  it('is never more than was charged, and never less than giving the courses up alone', () => {
    const price = fc.record({ tuition: fc.nat(200_000), fees: fc.nat(20_000) })
    fc.assert(fc.property(fc.array(price, { minLength: 1, maxLength: 5 }), price, fc.integer({ min: 0, max: 140 }), (list, taken, day) => {
      const held = list.map((one, i) => ({ ...one, course: `C${i}`, session: 'full' }))
      const date = new Date(Date.parse('2026-12-20') + day * 86_400_000).toISOString().slice(0, 10)
      const sum = (back: { cents: number }[]) => back.reduce((all, one) => all + one.cents, 0)
      const exchanged = sum(exchangedBack(held, taken, SPRING, POLICY, date))
      expect(exchanged).toBeLessThanOrEqual(list.reduce((all, one) => all + total(one), 0))
      // Rounding half a cent up may differ by one a course.
      expect(exchanged).toBeGreaterThanOrEqual(sum(moneyBack(held, SPRING, POLICY, date)) - list.length)
    }))
  })
})

describe('an account', () => {
  it('is due by the plan; the first part decides whether the registration stays', () => {
    const entries = [entry('charge', 100_000)]
    expect(read(entries, '2026-12-01')).toMatchObject({ balance: 100_000, overdue: 0, voidAfter: '2027-01-07',
      parts: [{ due: '2027-01-04', cents: 100_000, open: 100_000 }] })
    expect(read(entries, '2027-01-05').overdue).toBe(100_000)
    const three = read([...entries, entry('payment', 40_000)], '2027-01-05', THREE)
    expect(three.parts.map(part => [part.due, part.open])).toEqual([['2027-01-04', 0], ['2027-02-08', 30_000], ['2027-03-15', 30_000]])
    expect(three).toMatchObject({ overdue: 0, voidAfter: null, next: { due: '2027-02-08' } })
  })
  it('gives who registers late some days, for what was charged late alone', () => {
    const late = read([entry('charge', 50_000), entry('payment', 50_000), entry('charge', 20_000, '2027-01-12')], '2027-01-13')
    expect(late).toMatchObject({ overdue: 0, voidAfter: '2027-01-22', next: { due: '2027-01-19', open: 20_000 } })
  })
  it('lessens the latest parts by what came back, and says what the college owes', () => {
    const back = read([entry('charge', 100_000), entry('refund', 50_000)], '2026-12-01', THREE)
    expect(back.parts.map(part => part.cents)).toEqual([40_000, 10_000])
    expect(read([entry('charge', 100_000), entry('payment', 100_000), entry('void', 100_000)], '2027-01-08'))
      .toMatchObject({ balance: -100_000, parts: [], next: null, voidAfter: null, overdue: 0 })
  })

  const amount = fc.record({ kind: fc.constantFrom<MoneyEntry['kind']>('charge', 'refund', 'void', 'payment', 'payback'),
    cents: fc.nat(500_000),
    day: fc.integer({ min: 0, max: 120 }) })
  it('makes and loses no cent, whatever happens', () => {
    fc.assert(fc.property(fc.array(amount, { maxLength: 30 }), fc.constantFrom(WHOLE, THREE), (list, plan) => {
      const entries = list.map(({ kind, cents, day }) => entry(kind, cents,
        new Date(Date.parse('2026-11-09') + day * 86_400_000).toISOString().slice(0, 10)))
      const sides = balancesOf(entries)
      expect(sides.student + sides.college + sides.desk).toBe(0)
      const account = read(entries, '2027-02-01', plan)
      expect(account.balance).toBe(account.charged - account.paid)
      expect(account.balance).toBe(0 - sides.student)
      const due = account.parts.reduce((sum, part) => sum + part.cents, 0)
      expect(due).toBe(Math.max(0, account.charged))
      // What is open is what is charged and not paid; money that is there is never asked for again.
      const open = account.parts.reduce((sum, part) => sum + part.open, 0)
      expect(open).toBe(Math.max(0, due - Math.max(0, account.paid)))
      expect(account.overdue).toBeLessThanOrEqual(open)
      expect(account.parts.every(part => part.open >= 0 && part.open <= part.cents)).toBe(true)
    }))
  })
  it('is split so that the parts are the whole', () => {
    fc.assert(fc.property(fc.nat(5_000_000), fc.constantFrom(WHOLE, THREE), (cents, plan) => {
      const parts = splitBy(plan, cents)
      expect(parts.reduce((sum, part) => sum + part, 0)).toBe(cents)
      expect(parts.every(part => part >= 0)).toBe(true)
    }))
  })
})
