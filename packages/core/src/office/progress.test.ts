import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { progressByProgram, type StudentProgress } from './progress'

const student = fc.record({ id: fc.nat(), name: fc.string(), program: fc.constantFrom('A-BS-2025', 'B-BS-2025', ''),
  earned: fc.nat(15_000), finish: fc.constantFrom('2027SP', '2027SU', '2027FA', '2028SP', null), blockers: fc.nat(3), isLow: fc.boolean() })

describe('progressByProgram', () => {
  it('counts everybody once, in whatever order they come', () => {
    fc.assert(fc.property(fc.array(student), fc.infiniteStream(fc.nat()), (students: StudentProgress[], order) => {
      const found = progressByProgram(students)
      expect(found.reduce((sum, one) => sum + one.students, 0)).toBe(students.length)
      for (const one of found) {
        expect(one.open + one.finishes.reduce((sum, each) => sum + each.students, 0)).toBe(one.students)
        expect(Math.max(one.blocked, one.low, one.open)).toBeLessThanOrEqual(one.students)
        const mine = students.filter(each => each.program === one.program)
        expect(one.earned).toBe(Math.round(mine.reduce((sum, each) => sum + each.earned, 0) / mine.length))
      }
      const keys = students.map(() => order.next().value!)
      const shuffled = students.map((each, i) => [keys[i]!, each] as const).sort((a, b) => a[0] - b[0]).map(([, each]) => each)
      expect(progressByProgram(shuffled)).toEqual(found)
    }))
  })

  it('puts terms in their order and the largest program first', () => {
    const one = (program: string, finish: string | null) => ({ id: 1, name: '', program, earned: 100, finish, blockers: 0, isLow: false })
    const found = progressByProgram([one('B', '2027FA'), one('A', '2028SP'), one('A', '2027SU'), one('A', null)])
    expect(found.map(each => each.program)).toEqual(['A', 'B'])
    expect(found[0]!.finishes).toEqual([{ term: '2027SU', students: 1 }, { term: '2028SP', students: 1 }])
    expect(found[0]!.open).toBe(1)
  })
})
