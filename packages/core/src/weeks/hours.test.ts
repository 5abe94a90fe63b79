import { describe, expect, it } from 'vitest'
import { meeting, section, term } from '../../../../tests/builders'
import { movedPicks } from '../next/moved'
import { mondayOf, travelPerWeek } from './hours'

const spring = term('2027SP', { noClass: [{ date: '2027-01-18', name: 'Holiday' }] })
const travel = [{ from: 'main', to: 'works', minutes: 25 }]

describe('travelPerWeek', () => {
  const here = section(1, 'AAA 100', { meetings: [meeting(540, { days: ['M'], first: '2027-01-11', last: '2027-01-31' })] })
  const there = section(2, 'BBB 100', { meetings: [meeting(780, { days: ['M'], site: 'works', first: '2027-01-11', last: '2027-01-31' })] })
  it('goes from class to class on real dates, and averages over the weeks that have any', () => {
    // Two of three Mondays have classes; the third is a holiday, and its week has none.
    expect(travelPerWeek([here, there], spring, travel)).toBe(25)
    const back = section(3, 'CCC 100', { meetings: [meeting(960, { days: ['M'], first: '2027-01-11', last: '2027-01-17' })] })
    expect(travelPerWeek([here, there, back], spring, travel)).toBe(37.5)
    expect(travelPerWeek([], spring, travel)).toBe(0)
  })
})

describe('mondayOf', () => {
  it.each([['2027-01-11', '2027-01-11'], ['2027-01-17', '2027-01-11'], ['2027-03-01', '2027-03-01'], ['2026-12-31', '2026-12-28']])('%s',
    (date, monday) => {
      expect(mondayOf(date)).toBe(monday)
    })
})

describe('movedPicks', () => {
  const before = [meeting(540)]
  it('tells a pick that meets at other hours or in another room, and not one that is as it was, cancelled or gone', () => {
    const row = { course: 'AAA 100', sectionIds: [1], seen: before }
    const told = (meetings: ReturnType<typeof meeting>[], values = {}) => movedPicks([row], [section(1, 'AAA 100', { meetings,
      ...values })])
    expect(told([meeting(540)])).toEqual([])
    expect(told([meeting(600)])).toEqual([{ course: 'AAA 100', label: '01', before, now: [meeting(600)] }])
    expect(told([meeting(540, { room: '9' })])).toHaveLength(1)
    expect(told([meeting(600)], { cancelled: true })).toEqual([])
    expect(movedPicks([row], [])).toEqual([])
    expect(movedPicks([{ ...row, seen: null }], [section(1, 'AAA 100')])).toEqual([])
  })
})
