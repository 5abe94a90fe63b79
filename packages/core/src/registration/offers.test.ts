import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { offersAsBundles } from './offers'

const UNTIL = '2026-11-11T15:00:00.000Z'
const wait = (id: number, label: string, bundle: number[], offerUntil: string | null = UNTIL, course = 'HYD 230') => ({ id, course, label,
  bundle,
  offerUntil })

describe('offers of a bundle', () => {
  it('are one offer with the labels of its parts, where all of them are offered', () => {
    expect(offersAsBundles([wait(1, '02', [5, 6]), wait(2, '01', [9], null, 'GSP 120'), wait(3, '02L', [5, 6])]).map(one => [one.id,
      one.label]))
      .toEqual([[1, '02 + 02L'], [2, '01']])
    expect(offersAsBundles([wait(1, '02', [5, 6]), wait(3, '02L', [5, 6], null)]).map(one => one.label)).toEqual(['02', '02L'])
    expect(offersAsBundles([wait(1, '02', []), wait(3, '02', [], UNTIL)])).toHaveLength(2)
  })
  it('lose no label, and join nothing that only waits', () => {
    const waits = fc.array(fc.record({ id: fc.nat(), course: fc.constantFrom('A', 'B'), label: fc.constantFrom('01', '02', '03'),
      offerUntil: fc.constantFrom(null, UNTIL), bundle: fc.constantFrom([1], [1, 2], [3, 4]) }), { maxLength: 8 })
    fc.assert(fc.property(waits, (list) => {
      const whole = offersAsBundles(list)
      expect(whole.flatMap(one => one.label.split(' + ')).sort()).toEqual(list.map(one => one.label).sort())
      expect(whole.filter(one => one.offerUntil === null)).toEqual(list.filter(one => one.offerUntil === null))
    }))
  })
})
