import type { ClassStanding, CourseItem, GradingMode, Meeting, OfferingPattern, Part, Season } from '@ridgeway/core/catalog'
import { type Cell, courseCode, credits, date, instant, isDate, list, matching, money, oneOf, orNull, programId, shaped, termCode, text,
  timeOfDay, username, weekday, weekdays, whole, yesNo } from './cells'
import { type RowOf, table } from './table'

const siteCode = matching(/^[a-z0-9][a-z0-9-]{0,19}$/, 'a site: small letters, digits and hyphens')
const label = matching(/^[A-Z0-9]{1,6}$/, 'a section label such as 02 or 02L')
const sessionCode = matching(/^[a-z0-9][a-z0-9-]{0,9}$/, 'a session such as full')
const group = matching(/^[A-Za-z][A-Za-z0-9-]{0,19}$/, 'a program, class standing or cohort')
const word = text(40, 1)

const day = (words: string): Cell<{ date: string, name: string }> =>
  shaped(words, /^(\S+) (.{1,60})$/, ([on, name]) => isDate(on!) ? { date: on!, name: name! } : undefined,
    ({ date: on, name }) => `${on} ${name}`)
const movedDay: Cell<{ date: string, follows: Meeting['days'][number] }> = shaped('a date and the weekday it follows, such as 2027-01-20 M',
  /^(\S+) (\S)$/, ([on, as]) => {
    const follows = weekday.read(as!)
    return isDate(on!) && follows ? { date: on!, follows } : undefined
  }, ({ date: on, follows }) => `${on} ${follows}`)

const SEASONS: readonly Season[] = ['fall', 'spring', 'summer']
const seasons = list(oneOf<Season>(...SEASONS), 3)
const PARTS: readonly Part[] = ['lecture', 'lab', 'tutorial']
const MODES: readonly GradingMode[] = ['letter', 'pass', 'audit']
const STANDINGS: readonly ClassStanding[] = ['freshman', 'sophomore', 'junior', 'senior']

const meeting: Cell<Meeting> = shaped('days, times, dates, site and room, such as MW 09:30-10:45 2027-01-11..2027-04-30 main Weir 12',
  /^(\S+) (\S+)-(\S+) (\S+)\.\.(\S+) (\S+)(?: ([^;]{1,40}))?$/, ([on, from, to, first, last, site, room]) => {
    const [days, start, end] = [weekdays.read(on!), timeOfDay.read(from!), timeOfDay.read(to!)]
    if (!days || start === undefined || end === undefined || end <= start || !isDate(first!) || !isDate(last!) || last! < first!
      || siteCode.read(site!) === undefined) return undefined
    return { days, start, end, first: first!, last: last!, site: site!, room: room! }
  }, ({ days, start, end, first, last, site, room }) =>
    `${weekdays.write(days)} ${timeOfDay.write(start)}-${timeOfDay.write(end)} ${first}..${last} ${site}${room ? ` ${room}` : ''}`)
const exam: Cell<{ date: string, start: number, end: number }> = shaped('a date and times, such as 2027-05-03 09:00-11:00',
  /^(\S+) (\S+)-(\S+)$/, ([on, from, to]) => {
    const [start, end] = [timeOfDay.read(from!), timeOfDay.read(to!)]
    return isDate(on!) && start !== undefined && end !== undefined && end > start ? { date: on!, start, end } : undefined
  }, ({ date: on, start, end }) => `${on} ${timeOfDay.write(start)}-${timeOfDay.write(end)}`)
const reserved: Cell<{ for: string, seats: number }> = shaped('who they are kept for and how many, such as TIM-BS 5', /^(\S+) (\d{1,4})$/,
  ([who, seats]) => group.read(who!) === undefined ? undefined : { for: who!, seats: Number(seats) },
  ({ for: who, seats }) => `${who} ${seats}`)
const placement: Cell<{ test: string, score: number }> = shaped('a test and its score, such as MTH 70', /^([A-Z]{2,5}) (\d{1,4})$/,
  ([test, score]) => ({ test: test!, score: Number(score) }), ({ test, score }) => `${test} ${score}`)
const sectionRef = matching(/^[A-Z]{2,5} \d{3,4}[A-Z]{0,2}-[A-Z0-9]{1,6}$/, 'a section of the same term such as HYD 230-02')

const sites = table('sites.csv', 'Where classes meet.', {
  code: { title: 'site', cell: siteCode },
  name: { title: 'name', cell: text(80, 1) },
  online: { title: 'online', cell: yesNo, preset: false },
}, ['code'])
const travel = table('travel.csv', 'Minutes between two sites; sites without a row count as next to each other.', {
  from: { title: 'from', cell: siteCode },
  to: { title: 'to', cell: siteCode },
  minutes: { title: 'minutes', cell: whole(0, 600) },
}, ['from', 'to'])
const terms = table('terms.csv', 'The academic calendar.', {
  code: { title: 'term', cell: termCode },
  name: { title: 'name', cell: word },
  start: { title: 'first day', cell: date },
  end: { title: 'last day', cell: date },
  loadCap: { title: 'load cap', cell: credits },
  fullTime: { title: 'full time', cell: credits },
  addBy: { title: 'add by', cell: date },
  dropBy: { title: 'drop by', cell: date },
  withdrawBy: { title: 'withdraw by', cell: date },
  feesDue: { title: 'fees due', cell: date },
  scheduled: { title: 'scheduled', cell: yesNo, preset: false },
  noClass: { title: 'no class', cell: list(day('a date and its name, such as 2027-01-18 Winter holiday'), 100), preset: [] },
  movedDays: { title: 'moved days', cell: list(movedDay, 30), preset: [] },
}, ['code'])
const sessions = table('sessions.csv', 'Parts of a term; each term has at least one.', {
  term: { title: 'term', cell: termCode },
  code: { title: 'session', cell: sessionCode },
  name: { title: 'name', cell: word },
  start: { title: 'first day', cell: date },
  end: { title: 'last day', cell: date },
  addBy: { title: 'add by', cell: orNull(date), preset: null },
  dropBy: { title: 'drop by', cell: orNull(date), preset: null },
  withdrawBy: { title: 'withdraw by', cell: orNull(date), preset: null },
}, ['term', 'code'])
const openings = table('openings.csv', 'Who may register from when.', {
  term: { title: 'term', cell: termCode },
  from: { title: 'opens at', cell: instant },
  program: { title: 'program', cell: orNull(matching(/^[A-Z][A-Z0-9-]{1,18}$/, 'a program code such as WSC-BS')), preset: null },
  earnedMin: { title: 'credits earned', cell: credits, preset: 0 },
  words: { title: 'said as', cell: text(200, 1) },
}, ['term', 'from', 'program', 'earnedMin'])
const courses = table('courses.csv', 'The catalog\'s courses.', {
  code: { title: 'course', cell: courseCode },
  title: { title: 'title', cell: text(120, 1) },
  credits: { title: 'credits', cell: credits },
  creditsMax: { title: 'credits at most', cell: orNull(credits), preset: null },
  description: { title: 'description', cell: text(1000), preset: '' },
  attributes: { title: 'attributes', cell: list(word), preset: [] },
  prerequisite: { title: 'prerequisite', cell: text(500), preset: '' },
  corequisite: { title: 'corequisite', cell: text(300), preset: '' },
  exclusions: { title: 'no credit beside', cell: list(courseCode), preset: [] },
  equivalents: { title: 'same as', cell: list(courseCode), preset: [] },
  repeatLimit: { title: 'times', cell: whole(1, 20), preset: 1 },
  repeatCredits: { title: 'repeat credits', cell: orNull(credits), preset: null },
  seasons: { title: 'offered', cell: seasons, preset: [] as Season[] },
  years: { title: 'years', cell: orNull(oneOf<NonNullable<OfferingPattern['years']>>('odd', 'even')), preset: null },
  until: { title: 'last offered', cell: orNull(termCode), preset: null },
  parts: { title: 'parts', cell: list(oneOf<Part>(...PARTS), 3), preset: ['lecture'] as Part[] },
  fee: { title: 'fee', cell: money, preset: 0 },
}, ['code'])
const sections = table('sections.csv', 'What a term offers. Sections of a course with the same link, one of each part, are one bundle.', {
  term: { title: 'term', cell: termCode },
  course: { title: 'course', cell: courseCode },
  label: { title: 'section', cell: label },
  number: { title: 'number', cell: matching(/^\d{5}$/, 'a number of five digits') },
  session: { title: 'session', cell: sessionCode },
  part: { title: 'part', cell: oneOf<Part>(...PARTS), preset: 'lecture' as Part },
  link: { title: 'link', cell: label },
  seats: { title: 'seats', cell: whole(0, 5000) },
  reserved: { title: 'seats kept', cell: list(reserved, 12), preset: [] },
  sharesWith: { title: 'shares seats with', cell: orNull(sectionRef), preset: null },
  waitlist: { title: 'waitlist', cell: whole(0, 5000), preset: 0 },
  meets: { title: 'meets', cell: list(meeting, 20), preset: [] },
  exam: { title: 'exam', cell: orNull(exam), preset: null },
  delivery: { title: 'delivery', cell: oneOf('on site', 'online live', 'online any time', 'mixed'), preset: 'on site' as const },
  instructors: { title: 'instructors', cell: list(text(80, 1), 12), preset: [] },
  topic: { title: 'topic', cell: text(120), preset: '' },
  notes: { title: 'notes', cell: text(300), preset: '' },
  fee: { title: 'fee', cell: money, preset: 0 },
  gradingModes: { title: 'grading', cell: list(oneOf<GradingMode>(...MODES), 3), preset: ['letter'] as GradingMode[] },
  group: { title: 'group', cell: text(20), preset: '' },
  onlyPrograms: { title: 'only programs', cell: list(group), preset: [] },
  onlyStandings: { title: 'only standings', cell: list(oneOf<ClassStanding>(...STANDINGS), 4), preset: [] as ClassStanding[] },
  onlyCohorts: { title: 'only cohorts', cell: list(group), preset: [] },
  cancelled: { title: 'cancelled', cell: yesNo, preset: false },
}, ['term', 'course', 'label'])
const people = table('people.csv', 'Who signs in, and what students are here for.', {
  username: { title: 'sign-in name', cell: username },
  name: { title: 'name', cell: text(80, 1) },
  email: { title: 'email', cell: matching(/^[^\s@;,<>]{1,60}@[^\s@;,<>]{1,59}$/, 'a mail address') },
  role: { title: 'role', cell: oneOf('student', 'advisor', 'office') },
  advisor: { title: 'advisor', cell: orNull(username), preset: null },
  programs: { title: 'programs', cell: list(programId, 10), preset: [] },
  confirmed: { title: 'program confirmed', cell: yesNo, preset: false },
  residence: { title: 'residence', cell: text(20, 1), preset: 'resident' },
  cohorts: { title: 'cohorts', cell: list(group), preset: [] },
  placements: { title: 'placements', cell: list(placement), preset: [] },
}, ['username'])
const records = table('records.csv', 'What students have taken: one row an attempt.', {
  username: { title: 'sign-in name', cell: username },
  course: { title: 'course', cell: courseCode },
  term: { title: 'term', cell: orNull(termCode), preset: null },
  attempt: { title: 'attempt', cell: whole(1, 20), preset: 1 },
  credits: { title: 'credits', cell: credits },
  grade: { title: 'grade', cell: orNull(text(3, 1)), preset: null },
  earnedGrade: { title: 'grade elsewhere', cell: orNull(text(3, 1)), preset: null },
  topic: { title: 'topic', cell: orNull(text(120, 1)), preset: null },
  gradedAt: { title: 'graded', cell: orNull(instant), preset: null },
  state: { title: 'state', cell: oneOf('completed', 'under way'), preset: 'completed' as const },
  source: { title: 'source', cell: oneOf<CourseItem['source']>('here', 'transfer', 'exam'), preset: 'here' as CourseItem['source'] },
}, ['username', 'course', 'term', 'attempt'])

/** All tables, in the order in which they refer to each other. */
export const TABLES = { sites, travel, terms, sessions, openings, courses, sections, people, records }
export type TableName = keyof typeof TABLES
export type CollegeRows = { [K in TableName]: RowOf<typeof TABLES[K]>[] }
