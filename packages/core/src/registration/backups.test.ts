import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { course, courseMap, decision, meeting, row, section } from '../../../../tests/builders'
import type { Section } from '../catalog/types'
import { decideBeside, decideRun, type LineUpRow } from '.'

const AAA = course('AAA 100')
const BBB = course('BBB 100')
const pool = (id: number, left: number) => [{ id: id * 10, forGroup: null, capacity: 3, taken: 3 - left, held: 0 }]
const at = (id: number, code: string, hour: number, left: number, values: Partial<Section> = {}) => section(id, code, { link: String(id),
  meetings: [meeting(hour * 60, { days: ['M'] })], pools: pool(id, left), ...values })
const decide = (rows: LineUpRow[], sections: Section[]) => decideRun(rows, decision(courseMap(AAA, BBB), sections))

describe('before the gates are open', () => {
  it('says what would become of each row once they are, and registers nothing', () => {
    const sections = [at(1, 'AAA 100', 9, 0), at(2, 'AAA 100', 10, 1), at(3, 'BBB 100', 13, 0, { waitlistCapacity: 5 })]
    const rows = [{ ...row(1, 'AAA 100', [1]), backups: [[2]] }, { ...row(2, 'BBB 100', [3]), waitIfFull: true }]
    const gates = [{ kind: 'program' as const, open: false, term: { code: '2027SP', name: '' }, program: '' }]
    const closed = decideRun(rows, decision(courseMap(AAA, BBB), sections, { gates }))
    const open = decide(rows, sections)
    expect(open.map(one => [one.outcome, one.backup])).toEqual([['register', 1], ['waitlist', 0]])
    expect(closed.map(one => [one.outcome, one.once, one.backup, one.claims.length])).toEqual([['refused', 'register', 1, 0],
      ['refused', 'waitlist', 0, 0]])
    expect(closed.map(one => one.findings.slice(1))).toEqual(open.map(one => one.findings))
  })
})

describe('backups', () => {
  it('are taken in order when the first choice is full, and one that is refused makes way for the next', () => {
    const sections = [at(1, 'AAA 100', 9, 0), at(2, 'AAA 100', 10, 0), at(3, 'AAA 100', 11, 1), at(4, 'BBB 100', 11, 1), at(5, 'AAA 100',
      13, 1)]
    const rows = [row(1, 'BBB 100', [4]), { ...row(2, 'AAA 100', [1]), backups: [[2], [3], [5]] }]
    expect(decide(rows, sections)[1]).toMatchObject({ outcome: 'register', backup: 3, sectionIds: [5], claims: [{ sectionId: 5,
      poolId: 50 }] })
  })
  it('stand in for a bundle that is cancelled, and not for a course that is refused', () => {
    const asks = course('AAA 100', { prerequisite: 'ZZZ 900' })
    const sections = [at(1, 'AAA 100', 9, 2, { cancelled: true }), at(2, 'AAA 100', 10, 2)]
    const rows = [{ ...row(1, 'AAA 100', [1]), backups: [[2]] }]
    expect(decide(rows, sections)[0]).toMatchObject({ outcome: 'register', backup: 1 })
    expect(decideRun(rows, decision(courseMap(asks), sections))[0]).toMatchObject({ outcome: 'refused', backup: 0, sectionIds: [1] })
  })
  it('leave the row as it was where none helps', () => {
    const sections = [at(1, 'AAA 100', 9, 0), at(2, 'AAA 100', 10, 0)]
    const [plain] = decide([row(1, 'AAA 100', [1])], sections)
    expect(decide([{ ...row(1, 'AAA 100', [1]), backups: [[2]] }], sections)[0]).toEqual(plain)
  })
})

describe('waiting when it is full', () => {
  const full = at(1, 'AAA 100', 9, 0, { waiting: 2, waitlistCapacity: 3 })
  const wants = { ...row(1, 'AAA 100', [1]), waitIfFull: true }
  it('joins at the end, after the backups were tried', () => {
    expect(decide([wants], [full])[0]).toMatchObject({ outcome: 'waitlist', waits: [{ sectionId: 1, place: 3 }], claims: [] })
    expect(decide([{ ...wants, backups: [[2]] }], [full, at(2, 'AAA 100', 10, 1)])[0]).toMatchObject({ outcome: 'register', backup: 1 })
  })
  it('is refused where the waitlist has no room, where one waits already, and where more than seats is missing', () => {
    expect(decide([wants], [{ ...full, waiting: 3 }])[0]!.findings.map(one => one.code)).toContain('waitlist-full')
    const there = decideRun([wants], decision(courseMap(AAA), [full], { waitlisted: new Set([1]) }))[0]!
    expect([there.outcome, there.findings.at(-1)!.code]).toEqual(['refused', 'waiting-already'])
    const asks = course('AAA 100', { prerequisite: 'ZZZ 900' })
    expect(decideRun([wants], decision(courseMap(asks), [full]))[0]!.outcome).toBe('refused')
  })
  it('waits only for the parts that are full', () => {
    const withLab = course('AAA 100', { parts: ['lecture', 'lab'] })
    const sections = [at(1, 'AAA 100', 9, 0, { waitlistCapacity: 3, link: 'x', label: '01' }),
      at(2, 'AAA 100', 13, 2, { link: 'x', part: 'lab', label: '01L' })]
    const [found] = decideRun([{ ...row(1, 'AAA 100', [1, 2]), waitIfFull: true }], decision(courseMap(withLab), sections))
    expect(found!.waits).toEqual([{ sectionId: 1, place: 1 }])
  })
})

describe('what is asked beside a row with backups', () => {
  it('is held against the backup that the run would take', () => {
    const sections = [at(1, 'AAA 100', 9, 0), at(2, 'AAA 100', 11, 1), at(3, 'BBB 100', 11, 1), at(4, 'BBB 100', 9, 1)]
    const decide = decideBeside([{ ...row(1, 'AAA 100', [1]), backups: [[2]] }], decision(courseMap(AAA, BBB), sections))
    expect([decide(row(2, 'BBB 100', [3])).outcome, decide(row(2, 'BBB 100', [4])).outcome]).toEqual(['refused', 'register'])
  })
})

describe('rows with backups and waitlists', () => {
  it('never take a seat that is not there, nor register less than without them', () => {
    const anyRow = fc.record({ first: fc.integer({ min: 1, max: 4 }), backups: fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 3 }),
      waits: fc.boolean() })
    fc.assert(fc.property(fc.array(fc.integer({ min: 0, max: 1 }), { minLength: 8, maxLength: 8 }),
      fc.array(fc.integer({ min: 0, max: 2 }), { minLength: 8, maxLength: 8 }), anyRow, anyRow, (left, hours, a, b) => {
        const sections = left.map((seats, i) => at(i + 1, i < 4 ? 'AAA 100' : 'BBB 100', 9 + hours[i]!, seats, { waitlistCapacity: 1 }))
        const rows = [a, b].map(({ first, backups, waits }, i): LineUpRow => ({ ...row(i + 1, i ? 'BBB 100' : 'AAA 100', [first + i * 4]),
          backups: backups.map(one => [one + i * 4]), waitIfFull: waits }))
        const decided = decide(rows, sections)
        for (const { claims, outcome, waits } of decided) {
          for (const { sectionId } of claims) expect(left[sectionId - 1]).toBe(1)
          expect(claims.length).toBe(outcome === 'register' ? 1 : 0)
          expect(waits.length).toBe(outcome === 'waitlist' ? 1 : 0)
        }
        const plain = decide(rows.map(one => row(one.id, one.course, one.sectionIds)), sections)
        expect(decided[0]!.outcome === 'register').toBe(plain[0]!.outcome === 'register' || decided[0]!.backup > 0)
      }), { numRuns: 300 })
  })
})

describe('the line-up that a run ends in', () => {
  it('is not made by a backup of one row that meets the first choice of another', () => {
    const sections = [at(1, 'AAA 101', 9, 0), at(2, 'AAA 101', 12, 1), at(3, 'AAA 102', 12, 1), at(4, 'AAA 102', 14, 1)]
    const context = decision(courseMap(course('AAA 101'), course('AAA 102')), sections)
    const first = { ...row(1, 'AAA 101', [1]), backups: [[2]] }
    const [one, other] = decideRun([first, row(2, 'AAA 102', [3])], context)
    expect([one!.outcome, other!.outcome]).toEqual(['register', 'refused'])
    expect(other!.findings.filter(finding => !finding.ok).map(finding => finding.code)).toEqual(['clash'])
    // The other row has a backup of its own: its first choice would have registered, so its backup is tried as well.
    expect(decideRun([first, { ...row(2, 'AAA 102', [3]), backups: [[4]] }], context).map(({ outcome, backup }) => [outcome, backup]))
      .toEqual([['register', 1], ['register', 1]])
  })

  it('is what one fresh decision accepts, and what is refused is refused beside it as well', () => {
    const CODES = ['AAA 100', 'BBB 100', 'CCC 100', 'DDD 100']
    const withLab = (code: string) => course(code, { parts: ['lecture', 'lab'] })
    const courses = courseMap(...CODES.slice(0, 2).map(code => course(code)), ...CODES.slice(2).map(withLab))
    const choice = fc.record({ hour: fc.nat(3), lab: fc.nat(3), left: fc.nat(1) })
    const anyRow = fc.record({ choices: fc.array(choice, { minLength: 1, maxLength: 4 }), waits: fc.boolean() })
    fc.assert(fc.property(fc.array(anyRow, { minLength: 4, maxLength: 4 }), fc.uniqueArray(fc.nat(3), { minLength: 2, maxLength: 4 }),
      (chosen, order) => {
        const sections: Section[] = []
        const bundles = chosen.map(({ choices }, c) => choices.map(({ hour, lab, left }, n) => {
          const id = c * 20 + n * 2 + 1
          const link = String(id)
          sections.push(at(id, CODES[c]!, 9 + hour * 2, left, { link }))
          if (c < 2) return [id]
          sections.push(at(id + 1, CODES[c]!, 10 + lab * 2, 1, { link, part: 'lab' }))
          return [id, id + 1]
        }))
        const rows = order.map((c): LineUpRow => ({ ...row(c + 1, CODES[c]!, bundles[c]![0]!), backups: bundles[c]!.slice(1),
          waitIfFull: chosen[c]!.waits }))
        const context = decision(courses, sections)
        const run = decideRun(rows, context)
        const given = run.filter(one => one.outcome === 'register')
        const plain = given.map(one => row(one.rowId, one.course, one.sectionIds))
        expect(decideRun(plain, context).map(one => one.outcome)).toEqual(given.map(() => 'register'))
        run.forEach((one, i) => {
          const before = plain.filter(({ id }) => rows.findIndex(other => other.id === id) < i)
          const tried = [rows[i]!.sectionIds, ...rows[i]!.backups!].slice(0, one.outcome === 'register' ? one.backup : 1)
          const beside = decideBeside(one.outcome === 'register' ? before : plain, context)
          for (const ids of tried) expect(beside(row(one.rowId, one.course, ids)).outcome).toBe('refused')
        })
      }), { numRuns: 500 })
  })
})
