import { describe, expect, it } from 'vitest'
import type { CourseItem } from '../catalog/types'
import { gpa } from './gpa'
import { LETTER_SCALE, meetsGrade } from './scale'

const attempt = (id: string, grade: string, values: Partial<CourseItem> = {}): CourseItem => ({ id, course: 'AAA 100', term: '2025FA',
  credits: 300, grade, state: 'completed', source: 'here', ...values })

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
    expect([meetsGrade(LETTER_SCALE, 'C', 'C'), meetsGrade(LETTER_SCALE, 'C-', 'C'), meetsGrade(LETTER_SCALE, 'TR', 'C'),
      meetsGrade(LETTER_SCALE, 'TR', 'B'), meetsGrade(LETTER_SCALE, 'F', undefined)]).toEqual([true, false, true, false, false])
  })
  it('refuses a rule that asks for an unknown grade', () => {
    expect(() => meetsGrade(LETTER_SCALE, 'B', 'Z')).toThrow(/not on the grade scale/)
  })
})
