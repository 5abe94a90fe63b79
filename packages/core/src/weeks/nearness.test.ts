import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distanceInWeek } from './nearness'

const DAYS = ['M', 'T', 'W', 'R', 'F'] as const
const meetings = fc.array(fc.record({ days: fc.uniqueArray(fc.constantFrom(...DAYS), { minLength: 1 }), start: fc.integer({ min: 480,
  max: 1200 }) }), { minLength: 1, maxLength: 3 })

describe('how far hours are from those before', () => {
  it('is nought for the same hours, and counts a new weekday as two hours', () => {
    const before = [{ days: ['M', 'W'] as const, start: 570 }].map(one => ({ ...one, days: [...one.days] }))
    expect(distanceInWeek(before, before)).toBe(0)
    expect(distanceInWeek([{ days: ['M', 'W'], start: 600 }], before)).toBe(30)
    expect(distanceInWeek([{ days: ['T', 'R'], start: 570 }], before)).toBe(240)
    expect(distanceInWeek([], [])).toBe(0)
    expect(distanceInWeek([], before)).toBeGreaterThan(distanceInWeek([{ days: ['T', 'R', 'F'], start: 1200 }], before))
  })
  it('is never less than nought, and nought of itself', () => {
    fc.assert(fc.property(meetings, meetings, (a, b) => {
      expect(distanceInWeek(a, a)).toBe(0)
      expect(distanceInWeek(a, b)).toBeGreaterThanOrEqual(0)
    }))
  })
})
