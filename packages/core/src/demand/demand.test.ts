import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, section, term } from '../../../../tests/builders'
import type { Section } from '../catalog/types'
import { demandOfTerm, seatsOf, type Wisher } from './demand'
import { bestTimes, demandByDayPart, type Hours, usualTimes } from './times'
import { type Ahead, waitsFor } from './waits'

const TERMS = ['2027SP', '2027SU', '2027FA', '2028SP', '2028SU', '2028FA', '2029SP', '2029SU', '2029FA'].map(code => term(code))
const COURSES = courseMap(
  course('AAA 100'), course('AAA 200', { prerequisite: 'AAA 100' }), course('AAA 300', { prerequisite: 'AAA 200' }),
  course('BBB 100', { offered: { seasons: ['spring'] } }), course('BBB 200', { prerequisite: 'BBB 100 or AAA 100' }),
  course('CCC 100', { offered: { seasons: ['spring'], years: 'odd' } }), course('DDD 100'))
const ahead = (courses: string[], more: Partial<Ahead> = {}): Ahead => ({ courses, had: new Set(), load: 1800, ...more })

describe('a course that is not to be had this term', () => {
  it('moves the finish when the longest way goes through it, and not when there is time', () => {
    const [first] = waitsFor(['AAA 100'], ahead(['AAA 100', 'AAA 200', 'AAA 300']), COURSES, TERMS)
    expect(first).toEqual({ course: 'AAA 100', names: ['AAA 200', 'AAA 300'], delay: 1 })
    expect(waitsFor(['DDD 100'], ahead(['AAA 100', 'AAA 200', 'AAA 300', 'DDD 100']), COURSES, TERMS))
      .toEqual([{ course: 'DDD 100', names: [], delay: 0 }])
  })
  it('waits until it is given again', () => {
    expect(waitsFor(['BBB 100'], ahead(['BBB 100']), COURSES, TERMS)[0]!.delay).toBe(2)
    expect(waitsFor(['CCC 100'], ahead(['CCC 100']), COURSES, TERMS)[0]!.delay).toBe(4)
  })
  it('costs nothing where the credits ahead take as long anyway', () => {
    const many = ['BBB 100', 'AAA 100', 'AAA 200', 'AAA 300', 'DDD 100']
    expect(waitsFor(['BBB 100'], ahead(many, { load: 300 }), COURSES, TERMS)[0]!.delay).toBe(0)
    expect(waitsFor(['BBB 100'], ahead(many, { load: 1800 }), COURSES, TERMS)[0]!.delay).toBe(1)
  })
  it('keeps back only what has no other way', () => {
    expect(waitsFor(['BBB 100'], ahead(['BBB 100', 'BBB 200'], { had: new Set(['AAA 100']) }), COURSES, TERMS)[0]!.names).toEqual([])
    expect(waitsFor(['BBB 100'], ahead(['BBB 100', 'BBB 200']), COURSES, TERMS)[0]!.names).toEqual(['BBB 200'])
  })
  it('never brings the finish forward, and waiting behind it is never itself', () => {
    fc.assert(fc.property(fc.subarray([...COURSES.keys()], { minLength: 1 }), fc.integer({ min: 300, max: 2400 }), (courses, load) => {
      for (const { course: code, delay, names } of waitsFor(courses, ahead(courses, { load }), COURSES, TERMS)) {
        expect(delay).toBeGreaterThanOrEqual(0)
        expect(names).not.toContain(code)
      }
    }))
  })
})

describe('what a term is asked for', () => {
  const wisher = (student: number, code: string, more: Partial<Wisher> = {}): Wisher => ({ student, program: 'WSC-BS', course: code,
    state: 'planned', wait: null, ...more })
  it('is short by those without a seat beyond the seats that are left', () => {
    const wishers = [wisher(1, 'AAA 100', { state: 'registered' }), wisher(2, 'AAA 100', { wait: { names: ['AAA 200'], delay: 2 } }),
      wisher(3, 'AAA 100', { state: 'waiting', program: 'TIM-BS', wait: { names: ['AAA 200', 'AAA 300'], delay: 1 } }),
      wisher(4, 'AAA 100'), wisher(4, 'BBB 100')]
    const [first, second] = demandOfTerm(wishers, new Map([['AAA 100', { seats: 3, left: 1 }], ['BBB 100', { seats: 5, left: 5 }]]))
    expect(first).toEqual({ course: 'AAA 100', students: 4, registered: 1, waiting: 1, seats: 3, left: 1, short: 2, behind: 2,
      delayed: { students: 2, terms: 3 },
      byProgram: [{ program: 'WSC-BS', students: 3 }, { program: 'TIM-BS', students: 1 }] })
    expect(second).toMatchObject({ course: 'BBB 100', short: 0, delayed: { students: 0, terms: 0 } })
  })
  it('counts every student once a course, and is short of nobody where there are seats for all', () => {
    const any = fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.constantFrom('AAA 100', 'BBB 100'),
      fc.constantFrom<Wisher['state'][]>('planned', 'waiting', 'registered')), { maxLength: 20 })
    fc.assert(fc.property(any, fc.integer({ min: 0, max: 20 }), (rows, left) => {
      const wishers = rows.map(([student, code, state]) => wisher(student, code, { state }))
      for (const one of demandOfTerm(wishers, new Map([['AAA 100', { seats: 20, left }]]))) {
        expect(one.byProgram.reduce((sum, of) => sum + of.students, 0)).toBe(one.students)
        expect(one.registered + one.short).toBeLessThanOrEqual(one.students)
        if (one.left >= one.students - one.registered) expect(one.short).toBe(0)
      }
    }))
  })
  it('is offered what the scarcer of lectures and labs has', () => {
    const lab = section(2, 'AAA 100', { part: 'lab', pools: [{ id: 2, forGroup: null, capacity: 12, taken: 10, held: 1 }] })
    const lecture = section(1, 'AAA 100', { pools: [{ id: 1, forGroup: null, capacity: 30, taken: 10, held: 0 }] })
    expect(seatsOf([lecture, lab, { ...lecture, cancelled: true }]).get('AAA 100')).toEqual({ seats: 12, left: 1 })
  })
})

describe('times of the week', () => {
  const at = (days: Hours['days'], start: number): Hours => ({ days, start, end: start + 75 })
  const meeting = (hours: Hours) => ({ ...hours, first: '2027-01-11', last: '2027-05-07', site: 'L', room: '1' })
  it('are the usual ones at which most are free', () => {
    const [early, late] = [at(['M', 'W'], 540), at(['T', 'R'], 840)]
    expect(bestTimes([early, late], [[early], [at(['M'], 600)], []])).toEqual([
      { ...late, free: 3, of: 3 }, { ...early, free: 1, of: 3 }])
    const one = (...meetings: Section['meetings']) => section(1, 'AAA 100', { meetings })
    const sections = [one(meeting(late)), one(meeting(early)), one(meeting(late)), one(meeting(early), meeting(late)), one()]
    expect(usualTimes(sections)).toEqual([late, early])
  })
  it('are told apart by when classes begin, each section once', () => {
    const sections = [section(1, 'AAA 100', { meetings: [meeting(at(['M'], 719))] }),
      section(2, 'AAA 100', { meetings: [meeting(at(['M'], 720))] }),
      section(3, 'AAA 100', { meetings: [meeting(at(['M'], 1020))] }), section(4, 'AAA 100', { meetings: [] }),
      section(5, 'AAA 100', { meetings: [], seatsWith: 4 }), section(6, 'AAA 100', { meetings: [], cancelled: true })]
    expect(demandByDayPart(sections, new Map([[2, 4]])).map(one => [one.part, one.sections, one.picked])).toEqual([
      ['morning', 1, 0], ['afternoon', 1, 4], ['evening', 1, 0], ['no set time', 1, 0]])
  })
})
