import type { AdvisingPolicy } from '@ridgeway/core/advising'
import type { Site, Term, TravelTime } from '@ridgeway/core/catalog'
import { LETTER_SCALE } from '@ridgeway/core/grades'
import type { MoneyPolicy } from '@ridgeway/core/money'
import type { OpeningRule } from '@ridgeway/core/registration'

export const INSTITUTION = {
  id: 1,
  name: 'Larkmoor College',
  zone: 'America/Denver',
  gradeScale: LETTER_SCALE,
  repeatPolicy: 'best' as const,
  money: {
    bands: [
      { code: 'resident', name: 'Resident', perCredit: 21400 },
      { code: 'regional', name: 'Upland region', perCredit: 32100 },
      { code: 'visiting', name: 'From elsewhere', perCredit: 49800 },
    ],
    siteFees: { high: 4500, stonegate: 1500 },
    refunds: [{ share: 25, percent: 50 }, { share: 50, percent: 25 }],
    plans: [
      { code: 'whole', name: 'All at once', parts: [{ days: 0, percent: 100 }] },
      { code: 'three', name: 'In three parts', parts: [{ days: 0, percent: 40 }, { days: 35, percent: 30 }, { days: 70, percent: 30 }] },
    ],
    lateDays: 7,
    graceDays: 3,
  } satisfies MoneyPolicy,
  advising: {
    changedAfter: 'shown', releaseCode: 'instead', releaseDays: 14, silentDays: 21,
    entitled: { 'substitution': 'advisor', 'waiver': 'advisor', 'prerequisite': 'advisor', 'load': 'advisor', 'clash': 'advisor',
      'restriction': 'either', 'seat': 'office', 'late add': 'either' },
  } satisfies AdvisingPolicy,
  termsText:
    'By registering you agree to pay the fees of the term by their due date; a registration that is unpaid three days after '
    + 'that date is voided. Courses dropped by the drop date leave no record. '
    + 'Larkmoor College may cancel a section with too few students and will then tell you what else fits.',
}

/** The demo begins ten minutes before Spring 2027 opens: Monday 9 November 2026, 07:50 in Denver. */
export const DEMO_START = '2026-11-09T14:50:00.000Z'

export const SITES: Site[] = [
  { code: 'larkmoor', name: 'Larkmoor', online: false },
  { code: 'stonegate', name: 'Stonegate Works', online: false },
  { code: 'high', name: 'High Station', online: false },
  { code: 'online', name: 'Online', online: true },
]

export const TRAVEL: TravelTime[] = [
  { from: 'larkmoor', to: 'stonegate', minutes: 25 },
  { from: 'larkmoor', to: 'high', minutes: 40 },
  { from: 'stonegate', to: 'high', minutes: 55 },
]

const fall = (year: number, start: string, half: string, end: string, holidays: string): Term => ({
  code: `${year}FA`,
  name: `Fall ${year}`,
  season: 'fall',
  year,
  start,
  end,
  scheduled: false,
  loadCap: 1800,
  fullTime: 1200,
  sessions: sessions(start, half, end),
  noClass: days(holidays),
  movedDays: [],
  addBy: shift(start, 7),
  dropBy: shift(start, 14),
  withdrawBy: shift(start, 63),
  feesDue: shift(start, -7),
})
const spring = (year: number, start: string, half: string, end: string, holidays: string): Term => ({
  ...fall(year, start, half, end, holidays),
  code: `${year}SP`,
  name: `Spring ${year}`,
  season: 'spring',
})
const summer = (year: number, start: string, half: string, end: string): Term => ({ ...fall(year, start, half, end, ''), code: `${year}SU`,
  name: `Summer ${year}`, season: 'summer', loadCap: 900, fullTime: 600,
  addBy: shift(start, 4), dropBy: shift(start, 8), withdrawBy: shift(start, 35) })

export const TERMS: Term[] = [
  fall(2023, '2023-08-28', '2023-10-20', '2023-12-15', '2023-09-04 Labor Day,2023-11-23 Thanksgiving,2023-11-24 Thanksgiving'),
  spring(2024, '2024-01-15', '2024-03-08', '2024-05-03', ''),
  summer(2024, '2024-06-03', '2024-06-28', '2024-07-26'),
  fall(2024, '2024-08-26', '2024-10-18', '2024-12-13', '2024-09-02 Labor Day,2024-11-28 Thanksgiving,2024-11-29 Thanksgiving'),
  spring(2025, '2025-01-13', '2025-03-07', '2025-05-02', '2025-01-20 Winter holiday'),
  summer(2025, '2025-06-02', '2025-06-27', '2025-07-25'),
  fall(2025, '2025-08-25', '2025-10-17', '2025-12-12', '2025-09-01 Labor Day,2025-11-27 Thanksgiving,2025-11-28 Thanksgiving'),
  spring(2026, '2026-01-12', '2026-03-06', '2026-05-01', '2026-01-19 Winter holiday'),
  summer(2026, '2026-06-01', '2026-06-26', '2026-07-24'),
  fall(2026, '2026-08-24', '2026-10-16', '2026-12-11', '2026-09-07 Labor Day,2026-11-26 Thanksgiving,2026-11-27 Thanksgiving'),
  {
    ...spring(2027, '2027-01-11', '2027-03-05', '2027-04-30',
      '2027-01-18 Winter holiday,2027-03-08 Spring break,2027-03-09 Spring break,'
      + '2027-03-10 Spring break,2027-03-11 Spring break,2027-03-12 Spring break,2027-04-02 College day'),
    scheduled: true,
    movedDays: [{ date: '2027-01-20', follows: 'M' }],
    feesDue: '2027-01-04',
  },
  { ...summer(2027, '2027-06-01', '2027-06-25', '2027-07-23'), scheduled: true },
  fall(2027, '2027-08-23', '2027-10-15', '2027-12-10', '2027-09-06 Labor Day,2027-11-25 Thanksgiving,2027-11-26 Thanksgiving'),
  spring(2028, '2028-01-10', '2028-03-03', '2028-04-28', '2028-01-17 Winter holiday'),
  summer(2028, '2028-06-01', '2028-06-23', '2028-07-21'),
  fall(2028, '2028-08-21', '2028-10-13', '2028-12-08', '2028-09-04 Labor Day,2028-11-23 Thanksgiving,2028-11-24 Thanksgiving'),
  spring(2029, '2029-01-08', '2029-03-02', '2029-04-27', '2029-01-15 Winter holiday'),
  summer(2029, '2029-06-01', '2029-06-22', '2029-07-20'),
  fall(2029, '2029-08-20', '2029-10-12', '2029-12-07', '2029-09-03 Labor Day,2029-11-22 Thanksgiving,2029-11-23 Thanksgiving'),
  spring(2030, '2030-01-07', '2030-03-01', '2030-04-26', '2030-01-21 Winter holiday'),
]

/** The term that opens for registration as the demonstration begins, and the summer after it. */
export const SPRING = TERMS.find(term => term.code === '2027SP')!
export const SUMMER = TERMS.find(term => term.code === '2027SU')!

/** The years before those, for a college whose records go back further. */
export const EARLIER_TERMS: Term[] = [
  fall(2020, '2020-08-24', '2020-10-16', '2020-12-11', ''),
  spring(2021, '2021-01-11', '2021-03-05', '2021-04-30', ''),
  summer(2021, '2021-06-01', '2021-06-25', '2021-07-23'),
  fall(2021, '2021-08-23', '2021-10-15', '2021-12-10', ''),
  spring(2022, '2022-01-10', '2022-03-04', '2022-04-29', ''),
  summer(2022, '2022-06-01', '2022-06-24', '2022-07-22'),
  fall(2022, '2022-08-22', '2022-10-14', '2022-12-09', ''),
  spring(2023, '2023-01-16', '2023-03-10', '2023-05-05', ''),
  summer(2023, '2023-06-05', '2023-06-30', '2023-07-28'),
]

/** Spring 2027 opens in three waves by credits earned; summer follows in February. */
export const OPENINGS: (OpeningRule & { term: string })[] = [
  { term: '2027SP', from: '2026-11-08T15:00:00.000Z', program: null, earnedMin: 6000, words: '60 credits or more' },
  { term: '2027SP', from: '2026-11-09T15:00:00.000Z', program: null, earnedMin: 2400, words: '24 to 59 credits' },
  { term: '2027SP', from: '2026-11-10T15:00:00.000Z', program: null, earnedMin: 0, words: 'fewer than 24 credits' },
  { term: '2027SU', from: '2027-02-15T15:00:00.000Z', program: null, earnedMin: 0, words: 'everybody' },
]

function sessions(start: string, half: string, end: string) {
  return [
    { code: 'full', name: 'Full term', start, end, deadlines: null },
    { code: 'first', name: 'First half', start, end: half, deadlines: halfDeadlines(start, half) },
    { code: 'second', name: 'Second half', start: shift(half, 3), end, deadlines: halfDeadlines(shift(half, 3), end) },
  ]
}

/** Half a term has deadlines of its own: everything in it goes twice as fast. */
function halfDeadlines(start: string, end: string) {
  const days = (Date.parse(end) - Date.parse(start)) / 86_400_000
  return { addBy: shift(start, 4), dropBy: shift(start, 8), withdrawBy: shift(start, Math.floor(days * 0.6)) }
}

function days(text: string) {
  return text ? text.split(',').map(day => ({ date: day.slice(0, 10), name: day.slice(11) })) : []
}

function shift(date: string, by: number): string {
  return new Date(Date.parse(`${date}T00:00:00Z`) + by * 86_400_000).toISOString().slice(0, 10)
}
