import type { CourseLine, Program } from '@ridgeway/core'

const every = (id: string, title: string, list: string[], minGrade?: string): CourseLine =>
  ({ kind: 'courses', id, title, filter: { list }, courses: list.length, ...(minGrade ? { minGrade } : {}) })
const thread = (id: string, title: string, credits: number, courses: number): CourseLine =>
  ({ kind: 'courses', id, title, filter: { attributes: [title] }, credits: credits * 100, courses })

/** BS Watershed Science, 120 credits; the college-wide core with its five threads is the first area. */
const WATERSHED: Program = {
  code: 'WSC-BS', kind: 'major', title: 'BS Watershed Science', catalogYear: 2025, totalCredits: 12000, gpaMinimum: 200, creditsHere: 3000,
  areas: [
    { kind: 'all', id: 'core', title: 'College core', hue: 'moss', children: [
      every('writing', 'Writing', ['WRT 110', 'WRT 210'], 'C-'),
      thread('numbers', 'Numbers', 3, 1),
      thread('evidence', 'Evidence', 3, 1),
      thread('voices', 'Voices', 6, 2),
      thread('places', 'Places', 3, 1),
      thread('making', 'Making', 3, 1),
    ] },
    { kind: 'all', id: 'watershed', title: 'Watershed core', hue: 'lake', children: [
      every('watershed-all', 'Seven watershed courses', ['HYD 110', 'HYD 210', 'HYD 230', 'HYD 310', 'HYD 330', 'HYD 410', 'HYD 490'], 'C'),
    ] },
    { kind: 'all', id: 'science', title: 'Science base', hue: 'clay', children: [
      every('science-base', 'Mathematics, soils and ecology', ['MTH 140', 'STT 201', 'SOL 201', 'ECL 210'], 'C-'),
      every('chemistry', 'Chemistry to 220', ['CHY 110', 'CHY 120', 'CHY 220'], 'C-'),
    ] },
    { kind: 'all', id: 'field', title: 'Field practice', hue: 'fern', children: [
      every('field-all', 'Field camp and snow survey', ['FLD 260', 'FLD 310'], 'C'),
      { kind: 'courses', id: 'field-seminar', title: 'One field seminar', filter: { list: ['FLD 330', 'FLD 340', 'FLD 350'] }, courses: 1, credits: 200 },
    ] },
    { kind: 'all', id: 'geospatial', title: 'Geospatial', hue: 'plum', children: [
      every('geospatial-all', 'Geospatial basics and field mapping', ['GSP 120', 'GSP 140'], 'C-'),
      { kind: 'courses', id: 'geospatial-upper', title: 'Geospatial at 200 or above', filter: { subjects: ['GSP'], levelMin: 200 }, courses: 2, credits: 600, minGrade: 'C-' },
    ] },
    { kind: 'all', id: 'electives', title: 'Electives', hue: 'slate', children: [
      { kind: 'courses', id: 'upper', title: 'Upper-level science', filter: { subjects: ['HYD', 'ECL', 'SOL', 'GSP', 'STT', 'CHY'], levelMin: 300 }, credits: 900, minGrade: 'C-' },
      { kind: 'courses', id: 'free', title: 'Free electives', filter: { except: ['MTH 095'] }, credits: 1500 },
    ] },
  ],
  overlays: [
    { kind: 'courses', id: 'field-based', title: 'Field-based', filter: { attributes: ['Field-based'] }, courses: 2 },
    { kind: 'courses', id: 'partner', title: 'Community partner', filter: { attributes: ['Community partner'] }, courses: 1 },
  ],
  suggested: [
    { name: 'First fall', courses: ['WRT 110', 'MTH 140', 'HYD 110', 'FLD 110', 'HRT 130'] },
    { name: 'First spring', courses: ['CHY 110', 'GSP 120', 'WRT 210', 'TIM 120', 'ECL 110'] },
    { name: 'Second fall', courses: ['HYD 210', 'CHY 120', 'STT 201', 'FLD 120'] },
    { name: 'Second spring', courses: ['HYD 230', 'SOL 201', 'GSP 140', 'ECL 210'] },
    { name: 'Second summer', courses: ['FLD 260'] },
    { name: 'Third fall', courses: ['HYD 310', 'CHY 220', 'VAL 220', 'GSP 240', 'MTH 110'] },
    { name: 'Third spring', courses: ['HYD 330', 'FLD 310', 'FLD 340', 'ECL 320', 'HRT 150'] },
    { name: 'Fourth fall', courses: ['HYD 410', 'GSP 330', 'HYD 340', 'SOL 310', 'LNG 140'] },
    { name: 'Fourth spring', courses: ['HYD 490', 'STT 301', 'WRT 310', 'HRT 230'] },
  ],
}

/** Certificate Trail and Site Safety, 12 credits, required beside every degree. */
const SAFETY: Program = {
  code: 'TSS-CERT', kind: 'certificate', title: 'Certificate Trail and Site Safety', catalogYear: 2025, totalCredits: 1200, gpaMinimum: 200, creditsHere: 600,
  areas: [
    { kind: 'all', id: 'safety', title: 'Safety certificate', hue: 'clay', children: [
      every('safety-all', 'First response, trails and tools', ['FLD 110', 'FLD 120', 'TIM 120'], 'C'),
      { kind: 'courses', id: 'safety-field', title: 'Field courses at 200 or above', filter: { subjects: ['FLD'], levelMin: 200 }, credits: 400, minGrade: 'C-' },
    ] },
  ],
  overlays: [],
  suggested: [],
}

export const PROGRAMS: Program[] = [WATERSHED, SAFETY]
export const programId = (program: Pick<Program, 'code' | 'catalogYear'>) => `${program.code}-${program.catalogYear}`
