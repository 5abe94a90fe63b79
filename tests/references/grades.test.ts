import { describe, expect, it } from 'vitest'
import { type CourseItem, weeklyHours } from '@ridgeway/core/catalog'
import { classStanding, enrolmentStatus, gpa, LETTER_SCALE } from '@ridgeway/core/grades'

const attempt = (credits: number, grade: string): CourseItem => ({ id: `${credits}${grade}`, course: 'AAA 100', term: '2025FA',
  credits: credits * 100, grade, state: 'completed', source: 'here' })

describe('enrolment status, 34 CFR 668.2 (definitions of full-time, three-quarter-time and half-time student)', () => {
  // The regulation: at least 12 semester hours a term for full time; three quarters and half of it for the others.
  it.each([[12, 'full-time'], [15, 'full-time'], [11.99, 'three-quarter-time'], [9, 'three-quarter-time'], [8.99, 'half-time'], [6,
    'half-time'], [5.99, 'less than half-time'], [0.01, 'less than half-time'], [0, 'not enrolled']])(
    '%f semester hours is %s',
    (hours, status) => expect(enrolmentStatus(Math.round(hours * 100), 1200)).toBe(status),
  )
})

describe('credit hour, 34 CFR 600.2', () => {
  // One hour of instruction and at least two hours of work outside it each week for about fifteen weeks, for one semester hour.
  it('asks 45 hours of a 15-credit load in a full term', () => expect(weeklyHours(1500, 15)).toBe(45))
  it('keeps the whole amount when the weeks are fewer', () => expect(weeklyHours(300, 7.5)).toBe(18))
})

describe('grade point average', () => {
  // Quality points over hours attempted: the method of the transcript key of U.S. registrars (common practice; the worked sums below are
  // done by hand).
  it('4 hours of A, 3 of B and 3 of C make 31 points over 10 hours', () => {
    const result = gpa([attempt(4, 'A'), attempt(3, 'B'), attempt(3, 'C')], LETTER_SCALE)
    expect(result).toEqual({ value: 310, attempted: 1000, points: 310_000 })
  })
  it('a fail weighs as hours attempted with no points', () => expect(gpa([attempt(3, 'A'), attempt(3, 'F')], LETTER_SCALE).value).toBe(200))
  it('2.995 is not rounded up to a threshold of 3.00', () => {
    expect(gpa([attempt(3, 'A'), attempt(3, 'C'), attempt(3, 'B'), attempt(3, 'B'), attempt(1, 'B-')], LETTER_SCALE).value).toBe(297)
  })
})

describe('class standing', () => {
  // Steps of thirty credits: common practice, no source.
  it.each([[0, 'freshman'], [29.99, 'freshman'], [30, 'sophomore'], [60, 'junior'], [90, 'senior']])('%f credits: %s',
    (credits, standing) => expect(classStanding(Math.round(credits * 100))).toBe(standing))
})
