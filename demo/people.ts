import { termOrder } from '@ridgeway/core/catalog'
import type { RequirementException } from '@ridgeway/core/requirements'
import type { ExceptionAsked } from '@ridgeway/core/advising'
import { findProgram } from './programs'

/**
 * The authored people of the demo, each with a story. Everybody is invented.
 * Records are written `TERM: CODE GRADE, …`; a plan `TERM: CODE, …`; `*` as a grade means under way.
 */
export const DEMO_PASSWORD = 'larkmoor'

export interface AuthoredStudent {
  username: string
  name: string
  story: string
  advisor: string
  record: string
  plan: string
  /** Bundles by course and link: `HYD 230-02`. */
  lineUp?: string
  confirmed?: boolean
  asked?: boolean
  signedOff?: string
  hold?: { reason: string, contact: string }
  placements?: Record<string, number>
  /** Cohorts that the student belongs to. */
  cohorts?: string[]
  targetLoad?: number
  accepted?: boolean
  /** Registered already, `CODE-LINK`. */
  registered?: string
  transfer?: string
  /** Credit by examination, `MTH 120 3`. */
  exam?: string
  /** Programs with their catalog year; Watershed Science and the safety certificate of 2025 when not said. */
  programs?: string[]
  exceptions?: {
    kind: RequirementException['kind']
    program: string
    line: string
    course: string | null
    instead?: string | null
    reason: string
  }[]
  milestones?: string[]
  /** Programs asked for and not yet answered. */
  wishes?: { programs: string[], note: string }
  waitlist?: { section: string, offerHours?: number }[]
  /** Told when sign-off was asked for. */
  askedNote?: string
  /** What the advisor suggests in the current plan: courses moved (`A→TERM`), placed (`+A TERM`) or taken out (`-A`). */
  suggested?: { why: string, lines: string[] }
  /** Exceptions asked for and not answered. */
  asks?: { asked: ExceptionAsked, reason: string }[]
  /** What the advisor wrote down. */
  notes?: { text: string, shared: boolean, at: string }[]
  /** A meeting that is booked. */
  meets?: { at: string, about: string }
  /** How the finish stood when the advisor last looked. */
  lastLook?: { at: string, finish: string | null }
  /** Plans besides the current one. */
  otherPlans?: { name: string, plan: string, note: string }[]
  /** Written beside the plan, by user name; about a course in its term, or about the term. */
  comments?: { by: string, at: string, course?: string, term: string, text: string }[]
}

/** When each advisor can be met: days, hours, minutes each, and where. */
export const OFFICE_HOURS = { days: ['T', 'R'], start: 600, end: 720, length: 15, places: ['Fell Hall 4', 'Fell Hall 6', 'Weir House 2',
  'Stonegate Works 11', 'Fell Hall 9', 'Weir House 5'] } as const

export const ADVISORS = [
  { username: 'hollis', name: 'Hollis Brandt', story: 'Advisor in Watershed Science. Tamsin\'s sign-off is on this desk.' },
  { username: 'yara', name: 'Yara Quill', story: 'Advisor with the harder cases: probation, transfer, part-time.' },
  { username: 'anselm', name: 'Anselm Croft', story: 'Advisor in Upland Heritage. Knows every substitution ever granted.' },
  { username: 'dagny', name: 'Dagny Orme', story: 'Advisor in Timber Engineering, most days at Stonegate Works.' },
  { username: 'piers', name: 'Piers Lowther', story: 'Advisor of the geospatial technicians.' },
  { username: 'sunniva', name: 'Sunniva Rake', story: 'Advisor in Watershed Science and the statistics minor.' },
]
export const OFFICE = [{ username: 'edda', name: 'Edda Rowntree',
  story: 'Registrar\'s office. Sees terms, openings and seats, and moves the demo clock.' }, { username: 'corwin', name: 'Corwin Ghyll',
  story: 'Registrar\'s office. Keeps the program files of each catalog year.' }]

const FIRST_FALL = '2025FA: WRT 110 B+, MTH 140 B, HYD 110 B, FLD 110 A-, HRT 130 B+'
const FIRST_SPRING = '2026SP: CHY 110 B, GSP 120 A-, TIM 120 B, ECL 110 B+'
const SECOND_FALL = '2026FA: HYD 210 *, CHY 120 *, WRT 210 *, FLD 120 *'
const LATER
  = '2027SU: FLD 260; 2027FA: HYD 310, CHY 220, VAL 220, GSP 240, MTH 110; '
    + '2028SP: HYD 330, FLD 310, FLD 340, ECL 320, HRT 150; 2028FA: HYD 410, GSP 330, HYD 340, SOL 310, LNG 140; '
    + '2029SP: HYD 490, STT 301, WRT 310, HRT 230'
const SENIOR
  = '2023FA: WRT 110 A-, MTH 140 B, HYD 110 B+, FLD 110 A, HRT 130 B; '
    + '2024SP: CHY 110 B, GSP 120 A, WRT 210 B+, TIM 120 B, ECL 110 A-; '
    + '2024FA: HYD 210 B, CHY 120 B-, STT 201 B+, FLD 120 A; 2025SP: HYD 230 B, SOL 201 B+, GSP 140 A-, ECL 210 B; '
    + '2025SU: FLD 260 A; 2025FA: HYD 310 B+, CHY 220 C+, VAL 220 B, GSP 240 B+, MTH 110 A; '
    + '2026SP: HYD 330 B, FLD 310 A, FLD 340 B+, ECL 320 B, HRT 150 A-'

const GRADES = ['B', 'A-', 'B+', 'B', 'C+', 'A', 'B-', 'B']
const YEARS = ['First', 'Second', 'Third', 'Fourth']

/**
 * A student who follows a program's suggested sequence from a fall on: what lies before Fall 2026 is passed, what is in it under way,
 * the rest is planned. `changes` replaces a course (`A→B`), drops it (`A→`) or gives it a grade (`A=F`).
 */
function follow(id: string, start: number, changes: string[] = [], shift = 0): { record: string, plan: string } {
  const replaced = new Map(changes.filter(change => change.includes('→')).map(change => change.split('→') as [string, string]))
  const grades = new Map(changes.filter(change => change.includes('=')).map(change => change.split('=') as [string, string]))
  const record: string[] = []
  const plan: string[] = []
  let n = shift
  for (const { name, courses } of findProgram(id).suggested) {
    const [year, season] = name.split(' ') as [string, string]
    const term = season === 'fall'
      ? `${start + YEARS.indexOf(year)}FA`
      : `${start + YEARS.indexOf(year) + 1}${season === 'spring' ? 'SP' : 'SU'}`
    const taken = courses.map(code => replaced.get(code) ?? code).filter(Boolean)
    if (taken.length === 0) continue
    const when = termOrder(term) - termOrder('2026FA')
    if (when > 0) plan.push(`${term}: ${taken.join(', ')}`)
    else record.push(
      `${term}: ${taken.map(code => `${code} ${when === 0 ? '*' : grades.get(code) ?? GRADES[n++ % GRADES.length]}`).join(', ')}`,
    )
  }
  return { record: record.join('; '), plan: plan.join('; ') }
}

const HERITAGE = ['UPH-BA-2025', 'TSS-CERT-2025']
const TIMBER = ['TIM-BS-2025', 'TSS-CERT-2025']
const TECHNICIAN = ['GFT-AAS-2025', 'TSS-CERT-2025']

export const STUDENTS: AuthoredStudent[] = [
  { username: 'tamsin', name: 'Tamsin Orrell', advisor: 'hollis', accepted: true,
    story: 'Second year. Opens at 08:00 today; sign-off not asked for, and Statistics I is nowhere in the plan yet.',
    record: `${FIRST_FALL}; ${FIRST_SPRING}; ${SECOND_FALL}`, plan: `2027SP: HYD 230, GSP 140, ECL 210; ${LATER}`, lineUp: 'GSP 140-03',
    otherPlans: [{ name: 'With statistics first', plan: `2027SP: HYD 230, GSP 140, STT 201, SOL 201; ${LATER}`,
      note: 'What Hollis sketched in October: statistics before the modelling course.' }], comments: [
      { by: 'hollis', at: '2026-10-29T16:05:00.000Z', course: 'HYD 310', term: '2027FA',
        text: 'This one needs Statistics I by then. Where would you put it?' },
      { by: 'tamsin', at: '2026-10-30T02:41:00.000Z', course: 'HYD 310', term: '2027FA',
        text: 'I was hoping for spring, with a lab fewer.' },
    ],
    notes: [{ at: '2026-10-29T16:20:00.000Z', shared: true, text: 'Prefers labs in the morning; works Mondays and Wednesdays from three.' },
      { at: '2026-10-29T16:22:00.000Z', shared: false, text: 'Was unsure about the program; ask again after the mid-terms.' }],
    lastLook: { at: '2026-10-29T16:30:00.000Z', finish: '2028FA' } },
  { username: 'joss', name: 'Joss Penhale', advisor: 'hollis', signedOff: '2026-11-03', accepted: true,
    story: 'Wants a full section, and one whose prerequisite is missing. Will hear why, and what to do.',
    record: `${FIRST_FALL}; 2026SP: CHY 110 C+, GSP 120 B, TIM 120 B, ECL 110 B; 2026FA: HYD 210 *, STT 201 *, WRT 210 *, FLD 120 *`,
    plan: '2027SP: HRT 150, HYD 330, ECL 210, GSP 140; 2027FA: CHY 120, HYD 310', lineUp: 'HRT 150-01, HYD 330-01, ECL 210-02' },
  { username: 'ines', name: 'Ines Calloway', advisor: 'hollis', confirmed: false, cohorts: ['TRAILHEAD'], placements: { MTH: 62 },
    story: 'First year. Has to confirm the program before anything else.',
    record: '2026FA: WRT 110 *, MTH 140 *, HYD 110 *, FLD 110 *, LNG 140 *', plan: '2027SP: CHY 110, GSP 120, WRT 210, TIM 120' },
  { username: 'bram', name: 'Bram Vetter', advisor: 'yara', signedOff: '2026-11-05', accepted: true,
    story: 'Transferred with credits of odd sizes; some count, some only towards the total.',
    transfer: 'WRT 110 3 A-, MTH 140 4 B, CHY 110 4.5 C, STT 110 2.67 B+, HRT 110 3 A, LNG 101 5 B, ECL 110 2.67 C+',
    record: '2026FA: HYD 110 *, GSP 120 *, FLD 110 *, CHY 120 *',
    plan: '2027SP: WRT 210, SOL 201, TIM 120, ECL 210; 2027FA: HYD 210, STT 201, CHY 220, FLD 120' },
  { username: 'odile', name: 'Odile Marsh', advisor: 'hollis', signedOff: '2026-11-04', accepted: true,
    story: 'Planned more electives than the program has room for: two courses count for nothing.',
    record: `${SENIOR}; 2025FA: LNG 101 B; 2026FA: HYD 410 *, GSP 330 *, HYD 340 *, SOL 310 *, LNG 140 *`,
    plan: '2027SP: HYD 490, WRT 310, HRT 230, STT 301, LNG 102' },
  { username: 'perrin', name: 'Perrin Locke', advisor: 'yara', asked: true, askedNote: 'I return the recorders this week.',
    story: 'A library hold stands in the way, and the sign-off is asked for but not given.',
    hold: { reason: 'Library: two overdue field recorders', contact: 'Library desk, desk@library.larkmoor.example' },
    record: `${FIRST_FALL}; ${FIRST_SPRING}; 2026FA: HYD 210 *, CHY 120 *, STT 201 *, WRT 210 *`,
    plan: '2027SP: HYD 230, SOL 201, GSP 140, ECL 210' },
  { username: 'wren', name: 'Wren Ashby', advisor: 'hollis', signedOff: '2026-11-02', accepted: true,
    asks: [{ asked: { kind: 'load', term: '2027SP', credits: 1900 }, reason: 'One more course would bring the finish forward.' }],
    story: 'Next term leans on Chemistry I, which is still under way: registers on condition of passing.',
    record:
      '2025FA: WRT 110 B, MTH 120 B, HYD 110 B-, HRT 110 B, FLD 110 B; '
      + '2026SP: MTH 140 C+, GSP 120 B, WRT 210 B, TIM 110 B; 2026FA: CHY 110 *, HYD 210 *, TIM 120 *, STT 201 *',
    plan: '2027SP: HYD 230, SOL 201, CHY 120, GSP 140', lineUp: 'HYD 230-02' },
  { username: 'dov', name: 'Dov Hallam', advisor: 'yara', asked: true, targetLoad: 700, accepted: true,
    meets: { at: '2026-11-10T17:15:00.000Z', about: 'Evenings in spring' },
    story: 'Part-time with a job: two courses a term, evenings and online where possible.',
    record: '2025FA: WRT 110 B, MTH 120 C+; 2026SP: HYD 110 B, FLD 110 A; 2026SU: ECL 115 B+; 2026FA: MTH 140 *, GSP 120 *',
    plan: '2027SP: CHY 110, WRT 210; 2027FA: HYD 210, STT 201' },
  { username: 'maren', name: 'Maren Tolley', advisor: 'hollis', signedOff: '2026-10-30', accepted: true,
    story: 'Ready to finish: registered yesterday, the last thirteen credits are in place.',
    record: `${SENIOR}; 2026FA: HYD 410 *, GSP 330 *, HYD 340 *, SOL 310 *, LNG 140 *`, plan: '2027SP: HYD 490, STT 301, WRT 310, HRT 230',
    registered: 'HYD 490-01, STT 301-01, WRT 310-01, HRT 230-01' },
  { username: 'kit', name: 'Kit Sorrel', advisor: 'yara',
    suggested: { why: 'Mathematics first: Chemistry rests on it.', lines: ['CHY 110→2027FA', '+MTH 095 2027SP'] },
    story: 'On probation: the GPA is under 2.00, and a repeat would mend it.',
    record:
      '2025FA: WRT 110 C-, MTH 120 D, HYD 110 F, HRT 110 C; 2026SP: HYD 110 C, GSP 120 D+, MTH 140 F, TIM 110 C-; '
      + '2026FA: MTH 140 *, ECL 110 *, WRT 210 *',
    plan: '2027SP: CHY 110, GSP 110, TIM 120' },
  { username: 'lise', name: 'Lise Arkwright', advisor: 'hollis', signedOff: '2026-10-29', accepted: true,
    story: 'The opening was yesterday and nothing is registered yet; seats are going.',
    record: `${SENIOR}; 2026FA: HYD 410 *, GSP 330 *, STT 310 *, SOL 310 *`, plan: '2027SP: HYD 490, WRT 310, HRT 230, SOL 340',
    lineUp: 'HYD 490-01, WRT 310-01, SOL 340-01' },
  { username: 'ned', name: 'Ned Fairlie', advisor: 'yara', signedOff: '2026-10-28', accepted: true,
    story: 'Holds a seat offer from a waitlist with 31 hours left.',
    record: `${SENIOR}; 2026FA: HYD 410 *, GSP 330 *, HYD 340 *, SOL 310 *`, plan: '2027SP: HYD 490, STT 301, WRT 310, HRT 230',
    registered: 'HYD 490-01, WRT 310-01', waitlist: [{ section: 'HRT 230-01', offerHours: 31 }] },
  { username: 'elan', name: 'Elan Crosby', advisor: 'sunniva', signedOff: '2026-11-04', accepted: true,
    programs: ['WSC-BS-2024', 'TSS-CERT-2024'],
    story: 'Catalog 2024 asks for Map Drafting, which is no longer taught. Took Cartographic Design: a substitution would mend it.',
    ...follow('WSC-BS-2024', 2024, ['GSP 150→', 'HRT 130→GSP 225', 'ECL 110=A'], 1) },
  { username: 'sable', name: 'Sable Hurst', advisor: 'hollis',
    story: 'Took Statistics for Crafts, which closes the way to Statistics I. The requirement says so, and what to ask for.',
    ...follow('WSC-BS-2025', 2025, ['STT 201→STT 205', 'MTH 140=B+'], 2) },
  { username: 'juno', name: 'Juno Marlowe', advisor: 'sunniva', asked: true, accepted: true,
    programs: ['WSC-BS-2025', 'EST-MIN-2025', 'TSS-CERT-2025'],
    story: 'A degree and the statistics minor: of the courses that fit both, two may count twice.',
    ...follow('WSC-BS-2025', 2024, ['MTH 110→STT 310', 'GSP 330→STT 320', 'HRT 150→STT 210', 'SOL 310→ECL 350'], 3) },
  { username: 'isolde', name: 'Isolde Farrow', advisor: 'anselm', signedOff: '2026-11-05', accepted: true, programs: HERITAGE,
    story: 'Heritage, third year. Many of the courses fit three lines; taken in order, one track would stay open.',
    ...follow('UPH-BA-2025', 2024, [], 2) },
  { username: 'corin', name: 'Corin Wade', advisor: 'anselm', programs: HERITAGE,
    story: 'Began one language and finished another: the choice takes the branch that is nearer.',
    ...follow('UPH-BA-2025', 2024, ['LNG 101→LNG 111', 'LNG 220→LNG 101', 'LNG 210→LNG 211', 'LNG 102→LNG 112'], 4) },
  { username: 'bryn', name: 'Bryn Oakes', advisor: 'anselm', programs: ['UPH-BA-2024', 'TSS-CERT-2024'], milestones: ['UPH-BA/portfolio'],
    story: 'Catalog 2024 with its shorter language requirement; the portfolio evening is done.',
    ...follow('UPH-BA-2024', 2023, ['LNG 220→HRT 140'], 1) },
  { username: 'orrin', name: 'Orrin Fell', advisor: 'anselm', programs: HERITAGE,
    story: 'The average cannot reach 2.00 any more without repeats; the rules say so before it is too late.',
    record:
      '2023FA: WRT 110 D, HRT 110 C-, LNG 101 D, MTH 110 C-, FLD 110 D; '
      + '2024SP: WRT 210 C-, HRT 130 D+, LNG 102 C-, ECL 110 D, TIM 120 D; '
      + '2024FA: HRT 210 D, HRT 250 C-, LNG 210 D+, FLD 120 D, VAL 110 D; '
      + '2025SP: HRT 310 D, LNG 220 D+, HRT 230 D, VAL 220 C-, HRT 150 D; '
      + '2025FA: HRT 330 D, HRT 240 D, ECL 210 D, WRT 310 D+, FLD 240 D; '
      + '2026SP: HRT 380 D, HRT 420 D, WRT 330 D, GSP 225 D, HRT 120 D; '
      + '2026FA: HRT 340 *, HRT 410 *, VAL 310 *, WRT 220 *, LNG 310 *',
    plan: '2027SP: VAL 340, HRT 320' },
  { username: 'wilf', name: 'Wilf Tarrant', advisor: 'dagny', signedOff: '2026-11-03', accepted: true, programs: TIMBER,
    story: 'Timber Engineering, third year, and ahead in mathematics.', ...follow('TIM-BS-2025', 2024, [], 3) },
  { username: 'petra', name: 'Petra Lisle', advisor: 'dagny', programs: TIMBER,
    story: 'Changed concentration half-way: both are begun, and the nearer one counts.',
    ...follow('TIM-BS-2025', 2023, ['TIM 450→TIM 430', 'ECL 110→TIM 445', 'PHX 210→TIM 420'], 5) },
  { username: 'hale', name: 'Hale Brenner', advisor: 'dagny', programs: ['TIM-BS-2024', 'TSS-CERT-2024'],
    milestones: ['TIM-BS/workshop-card'], story: 'Catalog 2024 has no concentration; technical electives must come from two subjects.',
    ...follow('TIM-BS-2024', 2023, [], 2) },
  { username: 'gwen', name: 'Gwen Askew', advisor: 'dagny', programs: TIMBER, exam: 'MTH 120 3', placements: { MTH: 72 },
    story: 'First year with credit by examination, which counts towards the total.',
    record: '2026FA: WRT 110 *, MTH 140 *, TIM 110 *, TIM 120 *, FLD 110 *', plan: '2027SP: MTH 150, PHX 140, TIM 150, WRT 210' },
  { username: 'mabel', name: 'Mabel Stagg', advisor: 'piers', signedOff: '2026-10-30', accepted: true, programs: TECHNICIAN,
    story: 'Technician, one term from the end; everything is planned.', ...follow('GFT-AAS-2025', 2025, [], 0) },
  { username: 'teal', name: 'Teal Fenwick', advisor: 'piers', programs: TECHNICIAN,
    wishes: { programs: ['WSC-BS-2025', 'TSS-CERT-2025'],
      note: 'I would like to go on to the degree. Most of what I took seems to count.' },
    story: 'Asks to change from the technician program to the degree; the advisor has the comparison.',
    ...follow('GFT-AAS-2025', 2025, ['VAL 110→VAL 220'], 4) },
  { username: 'nico', name: 'Nico Sallow', advisor: 'piers', programs: ['GFT-AAS-2024', 'TSS-CERT-2024'],
    exceptions: [{ kind: 'substitution', program: 'GFT-AAS', line: 'geospatial-all', course: 'GSP 270', instead: 'GSP 150',
      reason: 'Map Drafting is no longer taught; Field Data Collection covers the drafting unit.' }],
    story: 'Catalog 2024, with a substitution granted for the course that was given up.',
    ...follow('GFT-AAS-2024', 2025, ['GSP 150→GSP 270'], 1) },
  { username: 'kerra', name: 'Kerra Dunmail', advisor: 'hollis', programs: ['WSC-BS-2025', 'TSS-CERT-2025'],
    exceptions: [{ kind: 'waiver', program: 'WSC-BS', line: 'field-seminar', course: null,
      reason: 'Two seasons as a river warden before the program.' }], story: 'A waiver lifted the field seminar.',
    ...follow('WSC-BS-2025', 2024, ['FLD 340→STT 210'], 6) },
  { username: 'rafe', name: 'Rafe Colden', advisor: 'yara',
    story: 'Withdrew once, has one incomplete, and repeats a course: only what stands counts.',
    record:
      '2025FA: WRT 110 B, MTH 120 C, HYD 110 W, FLD 110 B, HRT 110 I; '
      + '2026SP: HYD 110 C-, GSP 120 B, CHY 110 F, TIM 120 B; 2026FA: HYD 110 *, CHY 110 *, MTH 140 *',
    plan: '2027SP: CHY 120, WRT 210, GSP 140, ECL 210; 2027FA: HYD 210, STT 201, FLD 120' },
  { username: 'senna', name: 'Senna Applegarth', advisor: 'sunniva', programs: ['WSC-BS-2025', 'EST-MIN-2024', 'TSS-CERT-2025'],
    story: 'The minor of catalog 2024 lets only one course count twice.',
    ...follow('WSC-BS-2025', 2023, ['LNG 140→STT 320', 'HYD 340→STT 310'], 2) },
  { username: 'una', name: 'Una Birkrigg', advisor: 'hollis', signedOff: '2026-11-06', accepted: true,
    story: 'Everything on the suggested path, on time.', ...follow('WSC-BS-2025', 2025, [], 0) },
  { username: 'idris', name: 'Idris Hallin', advisor: 'hollis',
    story: 'On the suggested path, a year ahead with summer field camp behind him.', ...follow('WSC-BS-2025', 2024, ['HYD 210=C'], 1) },
  { username: 'lark', name: 'Lark Pettigill', advisor: 'yara',
    transfer: 'HRT 110 3, HRT 130 3, WRT 110 3, LNG 101 4, LNG 102 4, VAL 110 3, SOL 110 3, OCE 150 3 B', programs: HERITAGE,
    story: 'Transferred with a year of humanities; almost all of it counts.',
    record: '2026FA: HRT 210 *, HRT 250 *, LNG 210 *, FLD 120 *, FLD 110 *', plan: '2027SP: HRT 310, LNG 220, HRT 230, WRT 210, TIM 120' },
  { username: 'emrys', name: 'Emrys Goddard', advisor: 'dagny', programs: TIMBER,
    hold: { reason: 'Workshop deposit of 40 is unpaid', contact: 'Stonegate Works office, works@larkmoor.example' },
    story: 'A deposit unpaid: a hold on the morning of the opening.', ...follow('TIM-BS-2025', 2025, [], 7) },
  { username: 'vesper', name: 'Vesper Lund', advisor: 'anselm', asked: true, programs: HERITAGE, targetLoad: 900,
    story: 'Half-time beside a farm; asks for sign-off of nine credits.',
    record: '2025FA: WRT 110 A-, HRT 110 A; 2026SP: HRT 130 A-, LNG 101 B+; 2026FA: HRT 210 *, LNG 101 *',
    plan: '2027SP: WRT 210, HRT 310, LNG 102' },
  { username: 'finch', name: 'Finch Averill', advisor: 'piers', programs: TECHNICIAN,
    story: 'Thinks of the timber degree; has not asked yet.', ...follow('GFT-AAS-2025', 2026, [], 0) },
  { username: 'merrin', name: 'Merrin Stokoe', advisor: 'sunniva',
    story: 'Three courses in geospatial at 200 or above, two lines that want them: the best use is not the first.',
    ...follow('WSC-BS-2025', 2024, ['HRT 150→GSP 260', 'ECL 320→GSP 350', 'SOL 310→GSP 310', 'VAL 220→GSP 210'], 5) },
  { username: 'jory', name: 'Jory Haverthwaite', advisor: 'yara', confirmed: false,
    story: 'New from another college, program not confirmed; nothing planned yet.', transfer: 'WRT 110 3, MTH 140 4, PHX 140 4',
    record: '2026FA: HYD 110 *, GSP 120 *', plan: '' },
]

export const GIVEN_NAMES = ['Ada', 'Alder', 'Amis', 'Anwen', 'Aric', 'Bel', 'Bryn', 'Cass', 'Corin', 'Dara', 'Del', 'Edie', 'Elan', 'Emrys',
  'Fern', 'Finch', 'Gale', 'Gwen', 'Hale', 'Hesper', 'Idris', 'Iona', 'Jory', 'Juno', 'Kerra', 'Lark', 'Linnet', 'Lowen', 'Mab', 'Merrin',
  'Nell', 'Nico', 'Orla', 'Oswin', 'Pascoe', 'Petra', 'Quill', 'Rafe', 'Rosin', 'Rowan', 'Sable', 'Senna', 'Tam', 'Teal', 'Una', 'Vale',
  'Vesper', 'Wilf', 'Yewen', 'Zinnia']
export const FAMILY_NAMES = ['Ambleton', 'Askwith', 'Barrowdale', 'Birkett', 'Borrans', 'Brathay', 'Caldew', 'Carrock', 'Crosthwaite',
  'Dalehead', 'Derwin', 'Ennerby', 'Fleetham', 'Gillerthwaite', 'Glenridd', 'Harrop', 'Helvel', 'Irton', 'Kentmere', 'Kirkfell',
  'Langstrath', 'Loughrig', 'Mardale', 'Matterby', 'Nethermost', 'Ormsgill', 'Patterby', 'Ravenglen', 'Rydalow', 'Sandwick', 'Scarth',
  'Seathwaite', 'Silverhow', 'Stickle', 'Tarnside', 'Thirlby', 'Ullock', 'Wansfell', 'Wetherlam', 'Winster']
