import { describe, expect, it } from 'vitest'
import { isOffered } from '@ridgeway/core/catalog'
import { NO_GRADES_ASKED } from '@ridgeway/core/record'
import { findCourses, findSections, makeTextIndex } from '@ridgeway/core/find'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import { TERMS, TRAVEL } from '../../demo/calendar'
import { COURSES } from '../../demo/courses'
import { demoSections } from '../../demo/load'
import { Random } from '../../demo/random'

/**
 * What people type, and the course they mean: codes in pieces, words in pieces, letters that are wrong, missing, doubled or changed
 * places. Labelled by hand (no published set fits an invented catalog); the course meant is among the first three.
 */
const IN_SPRING: [typed: string, meant: string][] = [
  ['hyd 230', 'HYD 230'], ['HYD230', 'HYD 230'], ['hyd-230', 'HYD 230'], ['HDY 230', 'HYD 230'], ['dhy230', 'HYD 230'], ['hyd 23',
    'HYD 230'],
  ['groundwater', 'HYD 230'], ['ground water', 'HYD 230'], ['groundwatr', 'HYD 230'], ['grounwater', 'HYD 230'], ['goundwater', 'HYD 230'],
  ['calculus ii', 'MTH 150'], ['calculs ii', 'MTH 150'],
  ['caclulus', 'MTH 140'], ['calc', 'MTH 140'], ['statistics', 'STT 201'], ['statistcs', 'STT 201'], ['statitsics i', 'STT 201'],
  ['ecology', 'ECL 210'], ['ecolgy', 'ECL 210'], ['fire ecology', 'ECL 340'], ['fier ecology', 'ECL 340'], ['peat', 'ECL 320'],
  ['peatlans', 'ECL 320'],
  ['ethics', 'VAL 110'], ['ehtics', 'VAL 110'], ['land ethics', 'VAL 220'], ['land ehtics', 'VAL 220'], ['commons', 'VAL 230'],
  ['oral history', 'HRT 130'], ['oral hist', 'HRT 130'], ['orla history', 'HRT 130'], ['craft memory', 'HRT 150'], ['craft and memry',
    'HRT 150'],
  ['song', 'HRT 230'], ['story song', 'HRT 230'], ['writing i', 'WRT 110'], ['writting i', 'WRT 110'], ['writing places', 'WRT 210'],
  ['repots and proposals', 'WRT 310'], ['proposals', 'WRT 310'], ['soils', 'SOL 201'], ['soil', 'SOL 201'], ['erosion slopes', 'SOL 340'],
  ['chemistry', 'CHY 110'], ['chemsitry i', 'CHY 110'], ['chemistry ii', 'CHY 120'], ['geospatial basics', 'GSP 120'],
  ['geospacial basics', 'GSP 120'],
  ['field mapping', 'GSP 140'], ['feild mapping', 'GSP 140'], ['maps', 'GSP 110'], ['drone', 'GSP 260'], ['timber craft', 'TIM 150'],
  ['timbr craft', 'TIM 150'], ['tool safety', 'TIM 120'],
  ['water quality', 'HYD 330'], ['water qualty', 'HYD 330'], ['snow survey', 'FLD 310'], ['beaver ponds', 'HYD 450'], ['bever ponds',
    'HYD 450'],
  ['peat water life', 'HYD 450'], ['language ii', 'LNG 102'], ['languge ii', 'LNG 102'],
]
/** Over the whole catalog, whatever the season. */
const IN_CATALOG: [typed: string, meant: string][] = [
  ['advanced groundwater', 'HYD 420'], ['advanced ground', 'HYD 420'], ['adv groundwater', 'HYD 420'], ['wood structure', 'TIM 210'],
  ['linear algebra', 'MTH 220'], ['liner algebra', 'MTH 220'], ['flood', 'HYD 340'], ['flod hazards', 'HYD 340'], ['bayesian',
    'STT 410'], ['baysian thinking', 'STT 410'], ['mosses', 'ECL 230'],
  ['lichens', 'ECL 230'], ['avalanche', 'HYD 325'], ['avalanch', 'HYD 325'], ['hydrology hillslope', 'HYD 225'], ['summer camp', 'FLD 260'],
  ['remote sensing', 'GSP 330'], ['remot sensing', 'GSP 330'], ['heritage law', 'HRT 410'], ['differential equations', 'MTH 240'],
  ['diferential equation', 'MTH 240'], ['capstone watershed', 'HYD 490'], ['translation', 'LNG 310'], ['bridge', 'TIM 330'],
]

const courses = new Map(COURSES.map(one => [one.code, one]))
const { spring } = demoSections(new Random(20270111))
const term = TERMS.find(one => one.code === '2027SP')!
const rules = { courses, scale: LETTER_SCALE, repeatPolicy: 'best' as const }
const offered = COURSES.filter(one => isOffered(one, term))
const sections = makeTextIndex(offered, spring)
const firstThree = (text: string) => findSections({
  search: { text }, rows: [], lines: [], wishes: [], shortlist: new Set(), creditsOf: () => null, index: sections, most: 3,
  context: { ...rules, term, terms: TERMS, gates: [], sections: new Map(spring.map(one => [one.id, one])), travel: TRAVEL, items: [],
    programs: [],
    placements: {}, permissions: [], asked: NO_GRADES_ASKED, loadCap: 1800, registered: [] },
}).courses.map(one => one.course)

describe('a search among the sections of a term', () => {
  it.each(IN_SPRING)('%s finds %s', (typed, meant) => {
    expect(firstThree(typed)).toContain(meant)
  })
})

describe('a search in the whole catalog', () => {
  const index = makeTextIndex(COURSES)
  it.each(IN_CATALOG)('%s finds %s', (typed, meant) => {
    const found = findCourses({ search: { text: typed }, courses, lines: [], terms: TERMS.filter(one => one.start > '2026-11-09'),
      facts: { items: [], programs: [], placements: {}, permissions: [] }, rules, index })
    expect(found.slice(0, 3).map(one => one.course.code)).toContain(meant)
  })
})
