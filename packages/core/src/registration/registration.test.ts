import { describe, expect, it } from 'vitest'
import type { Course, CourseItem, Meeting, Section, Term } from '../catalog/types'
import { LETTER_SCALE } from '../grades/scale'
import { NO_GRADES_ASKED } from '../record/repeats'
import { decideRun, type DecisionContext } from '.'
import type { RefusalCode } from './findings'
import { type GateInput, readGates } from './gates'

const term = { code: '2027SP', name: 'Spring 2027', season: 'spring', year: 2027, noClass: [], movedDays: [],
  loadCap: 1800 } as unknown as Term
const course = (code: string, rule: Partial<Course> = {}): [string, Course] => [code, {
  code,
  subject: code.slice(0, 3),
  number: Number(code.slice(4)),
  title: code,
  credits: 300,
  creditsMax: 300,
  description: '',
  attributes: [],
  prerequisite: '',
  corequisite: '',
  exclusions: [],
  equivalents: [],
  repeatLimit: 1,
  offered: { seasons: ['spring'] },
  parts: ['lecture'],
  fee: 0,
  ...rule,
}]
const meeting = (start: number, days: Meeting['days'] = ['M']): Meeting => ({ days, start, end: start + 75, first: '2027-01-11',
  last: '2027-04-30', site: 'larkmoor', room: '1' })
const section = (id: number, code: string, values: Partial<Section> = {}): [number, Section] => [id, {
  id,
  term: '2027SP',
  session: 'full',
  course: code,
  number: String(id),
  label: '01',
  part: 'lecture',
  link: '01',
  meetings: [meeting(400 + id * 90)],
  exam: null,
  instructors: [],
  pools: [{ id: id * 10, forGroup: null, capacity: 5, taken: 0, held: 0 }],
  waitlistCapacity: 0,
  waiting: 0,
  delivery: 'on site',
  topic: '',
  notes: '',
  fee: 0,
  gradingModes: ['letter'],
  group: '',
  seatsWith: null,
  onlyPrograms: [],
  onlyStandings: [],
  onlyCohorts: [],
  cancelled: false,
  ...values,
}]
const item = (code: string, values: Partial<CourseItem> = {}): CourseItem => ({ id: code, course: code, term: '2026FA', credits: 300,
  grade: 'B', state: 'completed', source: 'here', ...values })
const context = (values: Partial<DecisionContext>): DecisionContext => ({
  term,
  gates: [],
  courses: new Map(),
  sections: new Map(),
  scale: LETTER_SCALE,
  repeatPolicy: 'best',
  terms: [],
  asked: NO_GRADES_ASKED,
  travel: [],
  items: [],
  programs: ['WSC-BS'],
  placements: {},
  permissions: [],
  loadCap: 1800,
  registered: [],
  ...values,
})
const row = (id: number, code: string, sectionIds: number[]) => ({ id, course: code, sectionIds, credits: null })
const refused = (decisions: ReturnType<typeof decideRun>, index = 0): RefusalCode[] =>
  decisions[index]!.findings.filter(finding => !finding.ok).map(finding => finding.code)

describe('decideRun', () => {
  it('registers a row that breaks no rule and claims one seat a section', () => {
    const courses = new Map([course('AAA 100', { parts: ['lecture', 'lab'] })])
    const sections = new Map([section(1, 'AAA 100'), section(2, 'AAA 100', { part: 'lab' })])
    const [decision] = decideRun([row(1, 'AAA 100', [1, 2])], context({ courses, sections }))
    expect(decision).toMatchObject({ outcome: 'register', credits: 300,
      claims: [{ sectionId: 1, poolId: 10 }, { sectionId: 2, poolId: 20 }] })
  })

  const base = new Map([course('AAA 100'), course('AAA 200', { prerequisite: 'AAA 100 with C' }),
    course('BBB 100', { exclusions: ['AAA 100'] }), course('CCC 100', { corequisite: 'CCC 101' }),
    course('CCC 101', { corequisite: 'CCC 100', credits: 100 })])
  const seats = new Map([section(1, 'AAA 100'), section(2, 'AAA 200'), section(3, 'BBB 100'), section(4, 'CCC 100'), section(5, 'CCC 101')])
  const one = (code: string, id: number, values: Partial<DecisionContext> = {}) =>
    refused(decideRun([row(1, code, [id])], context({ courses: base, sections: seats, ...values })))

  it.each<[string, RefusalCode[], () => RefusalCode[]]>([
    ['a full section', ['seats-full'],
      () =>
        one('AAA 100', 1, {
          sections: new Map([section(1, 'AAA 100', { pools: [{ id: 1, forGroup: null, capacity: 5, taken: 4, held: 1 }] })]),
        })],
    ['seats kept for others', ['seats-full'],
      () =>
        one('AAA 100', 1, {
          sections: new Map([section(1, 'AAA 100', { pools: [{ id: 1, forGroup: 'TIM-BS', capacity: 5, taken: 0, held: 0 }] })]),
        })],
    ['a missing prerequisite', ['prerequisite'], () => one('AAA 200', 2)],
    ['a prerequisite passed too low', ['prerequisite'], () => one('AAA 200', 2, { items: [item('AAA 100', { grade: 'D' })] })],
    ['a planned prerequisite, which is no help on the day', ['prerequisite'],
      () => one('AAA 200', 2, { items: [item('AAA 100', { state: 'planned', grade: null, term: '2027SU' })] })],
    ['an excluded course', ['exclusion'], () => one('BBB 100', 3, { items: [item('AAA 100')] })],
    ['a passed course', ['already-passed'], () => one('AAA 100', 1, { items: [item('AAA 100')] })],
    ['a registered course', ['duplicate'],
      () => one('AAA 100', 1, { items: [item('AAA 100', { state: 'registered', grade: null, term: '2027SP' })] })],
    ['a topic that was taken before', ['same-topic'], () => one('AAA 290', 1, {
      courses: new Map([course('AAA 290', { repeatLimit: 3 })]),
      sections: new Map([section(1, 'AAA 290', { topic: 'Rivers in song' })]),
      items: [item('AAA 290', { topic: 'Rivers in song' })],
    })],
    ['nothing of another topic', [], () => one('AAA 290', 1, {
      courses: new Map([course('AAA 290', { repeatLimit: 3 })]),
      sections: new Map([section(1, 'AAA 290', { topic: 'Maps as pictures' })]),
      items: [item('AAA 290', { topic: 'Rivers in song' })],
    })],
    ['a missing corequisite', ['corequisite'], () => one('CCC 100', 4)],
    ['another program\'s section', ['restriction'],
      () => one('AAA 100', 1, { sections: new Map([section(1, 'AAA 100', { onlyPrograms: ['TIM-BS'] })]) })],
    ['a cancelled section', ['section-cancelled'],
      () => one('AAA 100', 1, { sections: new Map([section(1, 'AAA 100', { cancelled: true })]) })],
    ['a lecture without its lab', ['bundle-incomplete'],
      () => one('AAA 100', 1, { courses: new Map([course('AAA 100', { parts: ['lecture', 'lab'] })]) })],
    ['a section that is not there', ['section-unknown'], () => one('AAA 100', 99)],
    ['too many credits', ['load-cap'], () => one('AAA 100', 1, { loadCap: 200 })],
    ['a clash with what is registered', ['clash'],
      () => one('AAA 100', 1, { registered: [section(9, 'ZZZ 100', { meetings: [meeting(500)] })[1]] })],
    ['a closed gate', ['gate'],
      () =>
        one('AAA 100', 1, {
          gates: [{ kind: 'holds', open: false, term: { code: '2027SP', name: 'Spring 2027' },
            holds: [{ reason: 'library', contact: 'the library', placed: '2026-11-01' }] }],
        })],
  ])('refuses %s', (_, codes, decide) => expect(decide()).toEqual(codes))

  it('does not stop at the first refusal', () => {
    const [decision] = decideRun([row(1, 'AAA 200', [2])],
      context({ courses: base, sections: new Map([section(2, 'AAA 200', { cancelled: true, onlyPrograms: ['TIM-BS'] })]), loadCap: 0 }))
    const findings = decision!.findings.filter(finding => !finding.ok)
    expect(findings.map(finding => finding.code)).toEqual(['section-cancelled', 'prerequisite', 'restriction', 'load-cap'])
  })

  it('lets partners satisfy each other, and refuses both when one cannot be had', () => {
    const rows = [row(1, 'CCC 100', [4]), row(2, 'CCC 101', [5])]
    expect(decideRun(rows, context({ courses: base, sections: seats })).map(d => d.outcome)).toEqual(['register', 'register'])
    const full = new Map([...seats, section(5, 'CCC 101', { pools: [{ id: 50, forGroup: null, capacity: 1, taken: 1, held: 0 }] })])
    expect(decideRun(rows, context({ courses: base, sections: full })).map(d => d.outcome)).toEqual(['refused', 'refused'])
  })

  it('serves rows in order: the later of two that clash is refused', () => {
    const sections = new Map([section(1, 'AAA 100', { meetings: [meeting(540)] }), section(3, 'BBB 100', { meetings: [meeting(600)] })])
    const decisions = decideRun([row(1, 'BBB 100', [3]), row(2, 'AAA 100', [1])],
      context({ courses: new Map([course('AAA 100'), course('BBB 100')]), sections }))
    expect(decisions.map(d => d.outcome)).toEqual(['register', 'refused'])
    expect(refused(decisions, 1)).toEqual(['clash'])
  })

  it('takes reserved seats before open ones, and lifts a prerequisite by exception', () => {
    const pools = [{ id: 1, forGroup: null, capacity: 5, taken: 0, held: 0 }, { id: 2, forGroup: 'WSC-BS', capacity: 5, taken: 0, held: 0 }]
    const [decision] = decideRun([row(1, 'AAA 200', [2])],
      context({ courses: base, sections: new Map([section(2, 'AAA 200', { pools })]), permissions: ['AAA 200'] }))
    expect(decision).toMatchObject({ outcome: 'register', claims: [{ poolId: 2 }] })
  })
})

describe('readGates', () => {
  const input: GateInput = {
    term: { code: '2027SP', name: 'Spring 2027' },
    now: '2026-11-09T14:59:59.000Z',
    today: '2026-11-09',
    addBy: '2027-01-22',
    zone: 'America/Denver',
    programs: ['WSC-BS'],
    earned: 3000,
    signedOff: { by: 'Hollis Brandt', on: '2026-11-03' },
    signOffAsked: false,
    advisor: 'Hollis Brandt',
    holds: [],
    programConfirmed: true,
    programTitle: 'BS',
    termsAccepted: '2026-11-01',
    openings: [{ from: '2026-11-09T15:00:00.000Z', program: null, earnedMin: 2400, words: '24 to 59' }, { from: '2026-11-10T15:00:00.000Z',
      program: null, earnedMin: 0, words: 'all' }],
  }
  const closed = (values: Partial<GateInput>) => readGates({ ...input, ...values }).filter(gate => !gate.open).map(gate => gate.kind)
  it('opens at the very instant', () => {
    expect(closed({})).toEqual(['opening'])
    expect(closed({ now: '2026-11-09T15:00:00.000Z' })).toEqual([])
  })
  it('closes after the last day on which courses can be added, and says so only then', () => {
    const late = { now: '2027-01-22T15:00:00.000Z' }
    expect(closed({ ...late, today: '2027-01-22' })).toEqual([])
    expect(closed({ ...late, today: '2027-01-23' })).toEqual(['closing'])
    expect(readGates({ ...input, today: '2027-01-23' }).find(gate => gate.kind === 'closing')).toMatchObject({ by: '2027-01-22' })
  })
  it('gives each student the earliest opening that fits', () => {
    expect(closed({ now: '2026-11-09T15:00:00.000Z', earned: 100 })).toEqual(['opening'])
    expect(closed({ openings: [] })).toEqual(['opening'])
  })
  it('closes every gate that is not passed', () => {
    const gates = readGates({ ...input, signedOff: null, holds: [{ reason: 'Library', contact: 'the desk', placed: '' }],
      programConfirmed: false, termsAccepted: null })
    expect(gates.filter(gate => !gate.open).length).toBe(5)
  })
})
