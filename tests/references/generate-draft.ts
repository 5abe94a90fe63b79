import { type Course, isOffered, type Season, termPhase } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { type Catalog, type DraftWishes, EMPTY_FILE, type PlanEntry, type StudentFile } from '@ridgeway/core/planning'
import { newEntryId } from '@ridgeway/core/record'
import type { CourseLine, Program } from '@ridgeway/core/requirements'
import { TERMS } from '../../demo/calendar'
import { Random } from '../../demo/random'

export const DRAFT_TODAY = '2026-11-09'
export const AHEAD = TERMS.filter(term => termPhase(term, DRAFT_TODAY) === 'future').sort((a, b) => a.start.localeCompare(b.start))

/** Ways in which a course waits for others: each part must hold, and holds when one of its courses has come. */
export interface Asked {
  of: string[]
  alongside: boolean
}
export interface DraftCase {
  file: StudentFile
  catalog: Catalog
  wishes: DraftWishes
  asked: Map<string, Asked[]>
  lines: { list: string[], n: number }[]
}

/** A random degree of so many courses with prerequisites, offering patterns and choices, and a student who has some of it pinned. */
export function generateDraft(seed: number,
  shape: { courses: number, lines: number, pins: number, loads?: readonly (number | null)[], chained?: number }): DraftCase {
  const random = new Random(seed)
  const courses = new Map<string, Course>()
  const asked = new Map<string, Asked[]>()
  for (let i = 0; i < shape.courses; i++) {
    const code = `AAA ${101 + i}`
    const earlier = [...courses.keys()]
    const parts: Asked[] = []
    for (let p = random.chance(shape.chained ?? 0.62) && i > 2 ? random.between(1, 2) : 0; p > 0; p--) {
      parts.push({ of: [...new Set(Array.from({ length: random.chance(0.3) ? 2 : 1 }, () => random.pick(earlier.slice(-12))))],
        alongside: random.chance(0.12) })
    }
    asked.set(code, parts)
    const seasons: Season[] = random.chance(0.5)
      ? ['fall', 'spring']
      : random.chance(0.08)
        ? ['summer']
        : random.chance(0.5)
          ? ['fall']
          : ['spring']
    const credits = random.pick([300, 300, 300, 400, 400, 200, 100])
    courses.set(code, {
      code,
      subject: 'AAA',
      number: 101 + i,
      title: code,
      credits,
      creditsMax: credits,
      description: '',
      attributes: [],
      corequisite: '',
      exclusions: [],
      equivalents: [],
      repeatLimit: 1,
      prerequisite: parts.map(({ of, alongside }) =>
        of.length === 1 ? say(of[0]!, alongside) : `(${of.map(one => say(one, alongside)).join(' or ')})`,
      ).join(' and '),
      offered: { seasons,
        ...(random.chance(0.12) && !seasons.includes('summer') ? { years: random.chance(0.5) ? 'odd' as const : 'even' as const } : {}) },
      parts: [],
      fee: 0,
    })
  }
  const codes = random.shuffle([...courses.keys()])
  const size = Math.floor(codes.length / shape.lines)
  const lines = Array.from({ length: shape.lines }, (_, l) => {
    const list = codes.slice(l * size, (l + 1) * size)
    if (random.chance(0.5)) return { list, n: list.length }
    const wide = [...new Set([...list, ...(random.chance(0.4) ? [random.pick(codes), random.pick(codes)] : [])])]
    return { list: wide, n: random.between(1, Math.max(1, list.length - 1)) }
  })
  const program: Program = {
    code: 'GEN',
    kind: 'certificate',
    title: 'Generated',
    catalogYear: 2025,
    totalCredits: 0,
    rules: [],
    overlays: [],
    sharing: [],
    suggested: [{ name: 'First fall', courses: codes.slice(0, 4) }],
    areas: [{ kind: 'all', id: 'area', title: 'Area', hue: 'moss',
      children: lines.map(({ list, n }, l): CourseLine => ({ kind: 'courses', id: `line-${l}`, title: `Line ${l}`, filter: { list },
        courses: n }),
      ) }],
  }
  const entries: PlanEntry[] = []
  for (const code of random.shuffle(codes).slice(0, shape.pins)) {
    const terms = AHEAD.filter(term => isOffered(courses.get(code)!, term))
    const term = terms[Math.min(terms.length - 1, random.between(0, 3))]
    if (term)
      entries.push({ id: newEntryId(code, term.code), course: code, term: term.code, credits: courses.get(code)!.credits,
        pinned: random.chance(0.6), pinnedUse: null, note: '' })
  }
  const file: StudentFile = { ...EMPTY_FILE, entries, programs: ['GEN'] }
  const wishes: DraftWishes = {
    load: random.pick(shape.loads ?? [null, 900, 1200, 1500, 1800]),
    termsOff: random.chance(0.3) ? [random.pick(AHEAD.slice(0, 5)).code] : [],
    latestFinish: null,
    summers: random.chance(0.8) ? 'when needed' : 'freely',
    around: 'pinned',
  }
  return { file, catalog: { courses, programs: [program], terms: TERMS, scale: LETTER_SCALE, repeatPolicy: 'best' }, wishes, asked, lines }
}

const say = (code: string, alongside: boolean) => `${code}${alongside ? ' or alongside' : ''}`
