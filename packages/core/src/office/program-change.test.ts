import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { effectOf, type ProgramNow } from './program-change'

const line = fc.record({ id: fc.constantFrom('a', 'b', 'c'), title: fc.constant('Line'),
  state: fc.constantFrom<ProgramNow['lines'][number]['state'][]>('met', 'under way', 'covered', 'open'),
  open: fc.integer({ min: 0, max: 6 }).map(n => n * 100), uses: fc.constant<string[]>([]) })
const now = fc.record({ open: fc.integer({ min: 0, max: 6 }).map(n => n * 100), lost: fc.boolean(),
  finish: fc.constantFrom(null, '2027SP', '2027SU', '2027FA'), lines: fc.uniqueArray(line, { selector: one => one.id }) })
const MIRROR = { gains: 'loses', loses: 'gains', both: 'both', same: 'same' }

describe('what a change of rules comes to', () => {
  it('is nothing where nothing is changed', () => fc.assert(fc.property(now, (one) => {
    expect(effectOf(one, one)).toMatchObject({ kind: 'same', lines: [] })
  })))
  it('is the mirror image when it is taken back', () => fc.assert(fc.property(now, now, (a, b) => {
    const [there, back] = [effectOf(a, b), effectOf(b, a)]
    expect(back.kind).toBe(MIRROR[there.kind])
    expect(back.lines.map(one => [one.id, one.before, one.after]).sort()).toEqual(
      there.lines.map(one => [one.id, one.after, one.before]).sort())
  })))
  it('is a loss where more is open, where the finish moves back, and where a line cannot be filled any more', () => {
    const base: ProgramNow = { open: 300, finish: '2027SP', lost: false, lines: [] }
    expect(effectOf(base, { ...base, open: 600 }).kind).toBe('loses')
    expect(effectOf(base, { ...base, finish: '2027FA' }).kind).toBe('loses')
    expect(effectOf(base, { ...base, lost: true, finish: null }).kind).toBe('loses')
    expect(effectOf(base, { ...base, open: 0, finish: null }).kind).toBe('gains')
    expect(effectOf(base, { ...base, open: 0, finish: '2027FA' }).kind).toBe('both')
  })
})
