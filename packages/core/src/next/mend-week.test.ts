import { describe, expect, it } from 'vitest'
import { course, courseMap, decision, meeting, row, section, term } from '../../../../tests/builders'
import type { Course, Section } from '../catalog/types'
import { decideBeside, type DecisionContext, type LineUpRow } from '../registration'
import { bundlesOf } from '../weeks/bundles'
import { arrangeable, mendedByBundle, mendWeek, type WeekCourse } from './mend-week'

const at = (start: number, days: ('M' | 'T' | 'W')[] = ['M']) => [meeting(start, { days })]
/** The week as a page shows it: every bundle with the decision on it beside the other picks. */
function weekOf(courses: readonly Course[], sections: readonly Section[], picks: Record<string, number>,
  values: Partial<DecisionContext> = {}): WeekCourse[] {
  const context = decision(courseMap(...courses), sections, values)
  const rows: LineUpRow[] = Object.entries(picks).map(([code, id], i) => row(i + 1, code, [id]))
  return courses.map(({ code, parts }) => {
    const decide = decideBeside(rows.filter(one => one.course !== code), context)
    return { course: code, bundles: bundlesOf({ code, parts }, sections).map(bundle => ({ id: bundle.id, sections: bundle.sections,
      seats: 5,
      findings: decide(row(99, code, bundle.sections.map(one => one.id))).findings, picked: picks[code] === bundle.sections[0]!.id,
      registered: false })) }
  })
}
const about = { term: term('2027SP'), travel: [] }
const [AAA, BBB, CCC] = [course('AAA 100'), course('BBB 100'), course('CCC 100')]

describe('mendWeek', () => {
  it('exchanges as few bundles as it takes', () => {
    // Three picks at one hour; two of them have another.
    const sections = [section(1, 'AAA 100', { meetings: at(540) }), section(2, 'BBB 100', { meetings: at(540) }),
      section(3, 'BBB 100', { link: 'b', meetings: at(660) }), section(4, 'CCC 100', { meetings: at(540) }),
      section(5, 'CCC 100', { link: 'b', meetings: at(780) })]
    const mend = mendWeek(weekOf([AAA, BBB, CCC], sections, { 'AAA 100': 1, 'BBB 100': 2, 'CCC 100': 4 }), about)!
    expect(mend.exchanged).toEqual([{ course: 'BBB 100', from: '2', to: '3' }, { course: 'CCC 100', from: '4', to: '5' }])
    expect(mend.stays).toEqual([])
  })

  it('says which picks it mends, and leaves one alone that is refused for its course', () => {
    const asks = course('BBB 100', { prerequisite: 'ZZZ 900' })
    const sections = [section(1, 'AAA 100', { meetings: at(540), pools: [{ id: 10, forGroup: null, capacity: 1, taken: 1, held: 0 }] }),
      section(2, 'AAA 100', { link: 'b', meetings: at(660) }), section(3, 'AAA 100', { link: 'c', meetings: at(780) }),
      section(4, 'BBB 100', { meetings: at(660) })]
    const mend = mendWeek(weekOf([AAA, asks], sections, { 'AAA 100': 1, 'BBB 100': 4 }), about)!
    // 11:00 would be nearest in order, but the pick that stays refused meets then.
    expect(mend).toEqual({ mends: ['AAA 100'], stays: ['BBB 100'], exchanged: [{ course: 'AAA 100', from: '1', to: '3' }] })
  })

  it('says nothing where no other bundle helps', () => {
    const sections = [section(1, 'AAA 100', { meetings: at(540) }), section(2, 'BBB 100', { meetings: at(540) })]
    expect(mendWeek(weekOf([AAA, BBB], sections, { 'AAA 100': 1, 'BBB 100': 2 }), about)).toBeNull()
    expect(mendWeek(weekOf([AAA], sections.slice(0, 1), { 'AAA 100': 1 }), about)).toBeNull()
  })
})

describe('arrangeable', () => {
  it('takes a corequisite along that is to stand in the same week, and leaves out what needs one that is not', () => {
    const lab = course('BBB 100', { corequisite: 'AAA 100' })
    const sections = [section(1, 'AAA 100', { meetings: at(540) }), section(2, 'BBB 100', { meetings: at(660) })]
    expect(arrangeable(weekOf([AAA, lab], sections, {})).without).toEqual([])
    expect(arrangeable(weekOf([lab], sections, {})).without).toEqual(['BBB 100'])
  })
  it('keeps what is registered as it is', () => {
    const sections = [section(1, 'AAA 100', { meetings: at(540) }), section(2, 'AAA 100', { link: 'b', meetings: at(660) })]
    const week = weekOf([AAA], sections, {}).map(one => ({ ...one, bundles: one.bundles.map(b => ({ ...b, registered: b.id === '2' })) }))
    expect(arrangeable(week).courses[0]!.choices.map(one => one.id)).toEqual(['2'])
  })
})

describe('mendedByBundle', () => {
  it('holds where all that refuses a pick is about its bundle', () => {
    const cancelled = { code: 'section-cancelled' as const, ok: false, course: 'AAA 100', label: '01' }
    const passed = { code: 'already-passed' as const, ok: false, course: 'AAA 100', by: 'AAA 100', grade: 'B', times: 1 }
    expect([[cancelled], [passed], [cancelled, passed], []].map(mendedByBundle)).toEqual([true, false, false, false])
  })
})
