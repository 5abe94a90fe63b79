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
  targetLoad?: number
  accepted?: boolean
  /** Registered already, `CODE-LINK`. */
  registered?: string
  transfer?: string
  waitlist?: { section: string, offerHours?: number }[]
}

export const ADVISORS = [
  { username: 'hollis', name: 'Hollis Brandt', story: 'Advisor in Watershed Science. Tamsin\'s sign-off is on this desk.' },
  { username: 'yara', name: 'Yara Quill', story: 'Advisor with the harder cases: probation, transfer, part-time.' },
]
export const OFFICE = [{ username: 'edda', name: 'Edda Rowntree', story: 'Registrar\'s office. Sees terms, openings and seats, and moves the demo clock.' }]

const FIRST_FALL = '2025FA: WRT 110 B+, MTH 140 B, HYD 110 B, FLD 110 A-, HRT 130 B+'
const FIRST_SPRING = '2026SP: CHY 110 B, GSP 120 A-, TIM 120 B, ECL 110 B+'
const SECOND_FALL = '2026FA: HYD 210 *, CHY 120 *, WRT 210 *, FLD 120 *'
const LATER = '2027SU: FLD 260; 2027FA: HYD 310, CHY 220, VAL 220, GSP 240, MTH 110; 2028SP: HYD 330, FLD 310, FLD 340, ECL 320, HRT 150; 2028FA: HYD 410, GSP 330, HYD 340, SOL 310, LNG 140; 2029SP: HYD 490, STT 301, WRT 310, HRT 230'
const SENIOR = '2023FA: WRT 110 A-, MTH 140 B, HYD 110 B+, FLD 110 A, HRT 130 B; 2024SP: CHY 110 B, GSP 120 A, WRT 210 B+, TIM 120 B, ECL 110 A-; 2024FA: HYD 210 B, CHY 120 B-, STT 201 B+, FLD 120 A; 2025SP: HYD 230 B, SOL 201 B+, GSP 140 A-, ECL 210 B; 2025SU: FLD 260 A; 2025FA: HYD 310 B+, CHY 220 C+, VAL 220 B, GSP 240 B+, MTH 110 A; 2026SP: HYD 330 B, FLD 310 A, FLD 340 B+, ECL 320 B, HRT 150 A-'

export const STUDENTS: AuthoredStudent[] = [
  { username: 'tamsin', name: 'Tamsin Orrell', advisor: 'hollis', accepted: true,
    story: 'Second year. Opens at 08:00 today; sign-off not asked for, and Statistics I is nowhere in the plan yet.',
    record: `${FIRST_FALL}; ${FIRST_SPRING}; ${SECOND_FALL}`,
    plan: `2027SP: HYD 230, GSP 140, ECL 210; ${LATER}`, lineUp: 'GSP 140-03' },
  { username: 'joss', name: 'Joss Penhale', advisor: 'hollis', signedOff: '2026-11-03', accepted: true,
    story: 'Wants a full section, and one whose prerequisite is missing. Will hear why, and what to do.',
    record: `${FIRST_FALL}; 2026SP: CHY 110 C+, GSP 120 B, TIM 120 B, ECL 110 B; 2026FA: HYD 210 *, STT 201 *, WRT 210 *, FLD 120 *`,
    plan: '2027SP: HRT 150, HYD 330, ECL 210, GSP 140; 2027FA: CHY 120, HYD 310', lineUp: 'HRT 150-01, HYD 330-01, ECL 210-02' },
  { username: 'ines', name: 'Ines Calloway', advisor: 'hollis', confirmed: false, placements: { MTH: 62 },
    story: 'First year. Has to confirm the program before anything else.',
    record: '2026FA: WRT 110 *, MTH 140 *, HYD 110 *, FLD 110 *, LNG 140 *', plan: '2027SP: CHY 110, GSP 120, WRT 210, TIM 120' },
  { username: 'bram', name: 'Bram Vetter', advisor: 'yara', signedOff: '2026-11-05', accepted: true,
    story: 'Transferred with credits of odd sizes; some count, some only towards the total.',
    transfer: 'WRT 110 3, MTH 140 4, CHY 110 4.5, STT 110 2.67, HRT 110 3, LNG 101 5, ECL 110 2.67',
    record: '2026FA: HYD 110 *, GSP 120 *, FLD 110 *, CHY 120 *', plan: '2027SP: WRT 210, SOL 201, TIM 120, ECL 210; 2027FA: HYD 210, STT 201, CHY 220, FLD 120' },
  { username: 'odile', name: 'Odile Marsh', advisor: 'hollis', signedOff: '2026-11-04', accepted: true,
    story: 'One planned course counts for nothing: electives are full, and Language II fits no line.',
    record: `${SENIOR}; 2025FA: LNG 101 B; 2026FA: HYD 410 *, GSP 330 *, HYD 340 *, SOL 310 *, LNG 140 *`,
    plan: '2027SP: HYD 490, WRT 310, HRT 230, STT 301, LNG 102' },
  { username: 'perrin', name: 'Perrin Locke', advisor: 'yara', asked: true,
    story: 'A library hold stands in the way, and the sign-off is asked for but not given.',
    hold: { reason: 'Library: two overdue field recorders', contact: 'Library desk, desk@library.larkmoor.example' },
    record: `${FIRST_FALL}; ${FIRST_SPRING}; 2026FA: HYD 210 *, CHY 120 *, STT 201 *, WRT 210 *`, plan: '2027SP: HYD 230, SOL 201, GSP 140, ECL 210' },
  { username: 'wren', name: 'Wren Ashby', advisor: 'hollis', signedOff: '2026-11-02', accepted: true,
    story: 'Next term leans on Chemistry I, which is still under way: registers on condition of passing.',
    record: '2025FA: WRT 110 B, MTH 120 B, HYD 110 B-, HRT 110 B, FLD 110 B; 2026SP: MTH 140 C+, GSP 120 B, WRT 210 B, TIM 110 B; 2026FA: CHY 110 *, HYD 210 *, TIM 120 *, STT 201 *',
    plan: '2027SP: HYD 230, SOL 201, CHY 120, GSP 140', lineUp: 'HYD 230-02' },
  { username: 'dov', name: 'Dov Hallam', advisor: 'yara', asked: true, targetLoad: 700, accepted: true,
    story: 'Part-time with a job: two courses a term, evenings and online where possible.',
    record: '2025FA: WRT 110 B, MTH 120 C+; 2026SP: HYD 110 B, FLD 110 A; 2026SU: ECL 115 B+; 2026FA: MTH 140 *, GSP 120 *', plan: '2027SP: CHY 110, WRT 210; 2027FA: HYD 210, STT 201' },
  { username: 'maren', name: 'Maren Tolley', advisor: 'hollis', signedOff: '2026-10-30', accepted: true,
    story: 'Ready to finish: registered yesterday, the last thirteen credits are in place.',
    record: `${SENIOR}; 2026FA: HYD 410 *, GSP 330 *, HYD 340 *, SOL 310 *, LNG 140 *`, plan: '2027SP: HYD 490, STT 301, WRT 310, HRT 230',
    registered: 'HYD 490-01, STT 301-01, WRT 310-01, HRT 230-02' },
  { username: 'kit', name: 'Kit Sorrel', advisor: 'yara',
    story: 'On probation: the GPA is under 2.00, and a repeat would mend it.',
    record: '2025FA: WRT 110 C-, MTH 120 D, HYD 110 F, HRT 110 C; 2026SP: HYD 110 C, GSP 120 D+, MTH 140 F, TIM 110 C-; 2026FA: MTH 140 *, ECL 110 *, WRT 210 *', plan: '2027SP: CHY 110, GSP 110, TIM 120' },
  { username: 'lise', name: 'Lise Arkwright', advisor: 'hollis', signedOff: '2026-10-29', accepted: true,
    story: 'The opening was yesterday and nothing is registered yet; seats are going.',
    record: `${SENIOR}; 2026FA: HYD 410 *, GSP 330 *, STT 310 *, SOL 310 *`, plan: '2027SP: HYD 490, WRT 310, HRT 230, SOL 340', lineUp: 'HYD 490-01, WRT 310-01, SOL 340-01' },
  { username: 'ned', name: 'Ned Fairlie', advisor: 'yara', signedOff: '2026-10-28', accepted: true,
    story: 'Holds a seat offer from a waitlist with 31 hours left.',
    record: `${SENIOR}; 2026FA: HYD 410 *, GSP 330 *, HYD 340 *, SOL 310 *`, plan: '2027SP: HYD 490, STT 301, WRT 310, HRT 230',
    registered: 'HYD 490-01, WRT 310-01', waitlist: [{ section: 'HRT 230-02', offerHours: 31 }] },
]

export const GIVEN_NAMES = ['Ada', 'Alder', 'Amis', 'Anwen', 'Aric', 'Bel', 'Bryn', 'Cass', 'Corin', 'Dara', 'Del', 'Edie', 'Elan', 'Emrys', 'Fern', 'Finch', 'Gale', 'Gwen', 'Hale', 'Hesper', 'Idris', 'Iona', 'Jory', 'Juno', 'Kerra', 'Lark', 'Linnet', 'Lowen', 'Mab', 'Merrin', 'Nell', 'Nico', 'Orla', 'Oswin', 'Pascoe', 'Petra', 'Quill', 'Rafe', 'Rosin', 'Rowan', 'Sable', 'Senna', 'Tam', 'Teal', 'Una', 'Vale', 'Vesper', 'Wilf', 'Yewen', 'Zinnia']
export const FAMILY_NAMES = ['Ambleton', 'Askwith', 'Barrowdale', 'Birkett', 'Borrans', 'Brathay', 'Caldew', 'Carrock', 'Crosthwaite', 'Dalehead', 'Derwin', 'Ennerby', 'Fleetham', 'Gillerthwaite', 'Glenridd', 'Harrop', 'Helvel', 'Irton', 'Kentmere', 'Kirkfell', 'Langstrath', 'Loughrig', 'Mardale', 'Matterby', 'Nethermost', 'Ormsgill', 'Patterby', 'Ravenglen', 'Rydalow', 'Sandwick', 'Scarth', 'Seathwaite', 'Silverhow', 'Stickle', 'Tarnside', 'Thirlby', 'Ullock', 'Wansfell', 'Wetherlam', 'Winster']
