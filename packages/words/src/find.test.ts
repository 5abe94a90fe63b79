import { describe, expect, it } from 'vitest'
import type { CountsFor } from '@ridgeway/core/find'
import { sayCondition, sayCountsFor, sayHidden } from './find'
import { sayShortly } from './registration'
import { describeTimes, sayMeetings } from './times'

const line = (title: string, values: Partial<CountsFor> = {}): CountsFor => ({ line: `P/${title.toLowerCase()}`, title, program: 'P',
  hue: 'moss', open: true,
  overlay: false, used: false, ...values })

describe('sayCountsFor', () => {
  it.each<[string, CountsFor[]]>([
    ['counts for Voices', [line('Voices')]],
    ['counts for Voices and Making: you choose one', [line('Voices'), line('Making')]],
    ['counts for Voices and Making', [line('Voices'), line('Making', { program: 'Q' })]],
    ['counts for Voices · also Field (overlay)', [line('Voices'), line('Field', { overlay: true })]],
    ['would fit Voices, filled already', [line('Voices', { open: false })]],
    ['counts for Voices', [line('Voices', { open: false, used: true }), line('Making')]],
    ['counts for nothing that is open', []],
  ])('%s', (words, lines) => {
    expect(sayCountsFor(lines)).toBe(words)
  })
})

describe('why something is not shown', () => {
  it('is a word or two for every reason, and every condition has a name', () => {
    expect(['prerequisite', 'clash', 'seats-full', 'keep free', 'gate'].map(reason => sayHidden(reason as 'clash')))
      .toEqual(['prerequisite', 'clashes', 'full', 'hits keep-free', 'other reasons'])
    expect(['text', 'hours', 'remembered'].map(one => sayCondition(one as 'text'))).toEqual(['the words', 'the hours',
      '“on the shortlist”'])
  })
  it('is short in a row', () => {
    expect(sayShortly({ code: 'clash', ok: false, course: 'STT 201', label: '02', state: 'in the line-up',
      clash: { kind: 'overlap', date: '2027-01-12', shortBy: 0 } })).toBe('clashes with STT 201-02')
    expect(sayShortly({ code: 'restriction', ok: false, course: 'HYD 230', label: '01', groups: ['freshman', 'TRAILHEAD'] }))
      .toBe('only for freshman or TRAILHEAD')
    expect(sayShortly({ code: 'waitlist-full', ok: false, course: 'HYD 230', label: '01', waiting: 6 }))
      .toBe('The waitlist of HYD 230-01 is full too: 6 wait.')
  })
})

describe('when something meets', () => {
  const meeting = { days: ['M', 'W'] as ('M' | 'W')[], start: 570, end: 645, first: '2027-01-11', last: '2027-04-30', site: 'main',
    room: 'Cairn 101' }
  const trip = { ...meeting, days: ['S'] as 'S'[], start: 480, end: 1020, first: '2027-02-20', last: '2027-02-20', room: 'Field trip' }
  it('leaves a trip to the sheet, and says it there by its date', () => {
    expect(describeTimes([{ part: 'lecture', meetings: [meeting, trip] } as never])).toBe('M W 9:30–10:45')
    expect(sayMeetings([meeting, trip])).toBe('M W 9:30–10:45 in Cairn 101 and Sat 20 Feb 8:00–17:00 in Field trip')
    expect(sayMeetings([])).toBe('at no set time')
  })
})
