import { describe, expect, it } from 'vitest'
import { EMPTY_PLAN } from '@ridgeway/core/planning'
import type { CourseLine } from '@ridgeway/core/requirements'
import type { Wish } from '@ridgeway/core/weeks'
import { formatGpa } from './grades'
import { describeLine } from './lines'
import { sayOperation } from './plans'
import { sayLost } from './reach'
import { sayElement, sayWish } from './wishes'

const line = (values: Partial<CourseLine>): CourseLine => ({ kind: 'courses', id: 'x', title: 'X', filter: {}, ...values })

describe('describeLine', () => {
  it.each<[Partial<CourseLine>, string]>([
    [{ filter: { list: ['AAA 100', 'AAA 200'] }, courses: 2, minGrade: 'C' }, 'All of AAA 100, AAA 200, each with C or better.'],
    [{ filter: { list: ['AAA 100', 'AAA 200', 'BBB 100'] }, courses: 1 }, '1 course from AAA 100, AAA 200 or BBB 100.'],
    [{ filter: { subjects: ['AAA'], levelMin: 300 }, credits: 900 }, '9 credits from AAA courses at 300 or above.'],
    [{ filter: { attributes: ['Voices'] }, courses: 2, credits: 600 }, '2 courses with at least 6 credits from any courses in Voices.'],
    [{ filter: { except: ['AAA 100'] }, credits: 1500 }, '15 credits from any courses except AAA 100.'],
  ])('%j reads "%s"', (values, words) => expect(describeLine(line(values))).toBe(words))
})

describe('sayOperation', () => {
  it('names the course, also where it is gone by now', () => {
    const plan = { ...EMPTY_PLAN,
      entries: [{ id: 'a', course: 'HYD 310', term: '2027FA', credits: 300, pinned: false, pinnedUse: null, note: '' }] }
    expect(sayOperation({ kind: 'move', entry: 'a', term: '2028FA' }, plan)).toBe('moved HYD 310 to Fall 2028')
    expect(sayOperation({ kind: 'remove', entry: 'GSP240-2027FA-1a2b' }, plan)).toBe('took GSP 240 out')
  })
})

describe('sayLost', () => {
  it('gives the reasons and the way', () => {
    expect(sayLost({ reasons: [{ code: 'last offered', course: 'GON 100', until: '2026FA' }] }))
      .toBe('GON 100 was last offered in Fall 2026. Ask your advisor for a substitution or a waiver.')
    expect(sayLost({ reasons: [] })).toBe('No course that is left fits this line. Ask your advisor for a substitution or a waiver.')
  })
})

describe('formatGpa', () => {
  it('writes two decimals', () => expect([formatGpa(319), formatGpa(400), formatGpa(null)]).toEqual(['3.19', '4.00', '–']))
})

describe('sayWish', () => {
  it.each<[Wish, string]>([
    [{ id: '1', weight: 'hard', kind: 'earliest', at: 570 }, 'nothing before 9:30'],
    [{ id: '1', weight: 2, kind: 'latest', at: 960 }, 'nothing after 16:00'],
    [{ id: '1', weight: 'hard', kind: 'day off', day: 'R' }, 'Thursday off'],
    [{ id: '1', weight: 'hard', kind: 'keep free', days: ['M', 'W'], start: 780, end: 1020 }, 'Monday and Wednesday 13:00–17:00 kept free'],
    [{ id: '1', weight: 3, kind: 'avoid site', site: 'works' }, 'nothing at Stonegate Works'],
    [{ id: '1', weight: 3, kind: 'fewer gaps', pass: 30 }, 'no waits over 30 minutes'],
    [{ id: '1', weight: 3, kind: 'seats left', least: 5 }, 'at least 5 seats left'],
  ])('%j', (wish, words) => {
    expect(sayWish(wish, code => code === 'works' ? 'Stonegate Works' : code)).toBe(words)
  })
  it('a course, a pin and a wish as what could not hold', () => {
    expect(sayElement({ kind: 'course', course: 'AAA 100' })).toBe('AAA 100')
    expect(sayElement({ kind: 'pin', course: 'AAA 100' })).toBe('AAA 100 as it is picked')
    expect(sayElement({ kind: 'wish', wish: { id: '1', weight: 'hard', kind: 'day off', day: 'F' } })).toBe('“Friday off”')
  })
})
