import { describe, expect, it } from 'vitest'
import type { Course, CourseItem } from '../catalog/types'
import { creditFamily, standingAttempts } from '../record/attempts'
import { earnedCredits, gpa } from './gpa'
import { LETTER_SCALE, meetsGrade } from './scale'

const attempt = (id: string, grade: string, values: Partial<CourseItem> = {}): CourseItem => ({ id, course: 'AAA 100', term: '2025FA', credits: 300, grade, state: 'completed', source: 'here', ...values })
const none = new Map<string, Course>()

describe('standingAttempts', () => {
  it('keeps the best or the latest of repeats, by policy', () => {
    const items = [attempt('1', 'B'), attempt('2', 'C', { term: '2026SP' })]
    expect(standingAttempts(items, none, LETTER_SCALE, 'best').standing.map(i => i.id)).toEqual(['1'])
    expect(standingAttempts(items, none, LETTER_SCALE, 'latest').standing.map(i => i.id)).toEqual(['2'])
  })
  it('never lets a withdrawal stand', () => {
    expect(standingAttempts([attempt('1', 'W')], none, LETTER_SCALE, 'latest')).toEqual({ standing: [], replaced: [] })
  })
  it('gives credit once between courses that exclude each other', () => {
    const courses = new Map([['AAA 100', { exclusions: ['AAA 105'], equivalents: [], repeatLimit: 1 } as unknown as Course], ['AAA 105', { exclusions: ['AAA 100'], equivalents: [], repeatLimit: 1 } as unknown as Course]])
    expect(creditFamily('AAA 105', courses)).toBe('AAA 100')
    const both = [attempt('1', 'B'), attempt('2', 'C', { course: 'AAA 105' })]
    expect(earnedCredits(standingAttempts(both, courses, LETTER_SCALE, 'best').standing, LETTER_SCALE)).toBe(300)
  })
})

describe('gpa', () => {
  it('weighs by credits and cuts off, never rounds up', () => {
    expect(gpa([attempt('1', 'A', { credits: 400 }), attempt('2', 'B'), attempt('3', 'C+')], LETTER_SCALE).value).toBe(319)
  })
  it('leaves out pass, transfer and withdrawn, and counts a fail', () => {
    expect(gpa([attempt('1', 'P'), attempt('2', 'TR', { source: 'transfer' })], LETTER_SCALE).value).toBeNull()
    expect(gpa([attempt('1', 'F'), attempt('2', 'A')], LETTER_SCALE).value).toBe(200)
  })
})

describe('meetsGrade', () => {
  it('compares on the scale; transfer credit stands for a C', () => {
    expect([meetsGrade(LETTER_SCALE, 'C', 'C'), meetsGrade(LETTER_SCALE, 'C-', 'C'), meetsGrade(LETTER_SCALE, 'TR', 'C'), meetsGrade(LETTER_SCALE, 'TR', 'B'), meetsGrade(LETTER_SCALE, 'F', undefined)]).toEqual([true, false, true, false, false])
  })
  it('refuses a rule that asks for an unknown grade', () => {
    expect(() => meetsGrade(LETTER_SCALE, 'B', 'Z')).toThrow(/not on the grade scale/)
  })
})
