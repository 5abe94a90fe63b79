import { z } from 'zod'
import type { AdvisingPolicy } from '@ridgeway/core/advising'
import type { Course, Site, Term, TravelTime } from '@ridgeway/core/catalog'
import type { GradeScale } from '@ridgeway/core/grades'
import type { MoneyPolicy } from '@ridgeway/core/money'
import type { CatalogProblem } from '@ridgeway/core/prerequisites'
import type { RepeatPolicy } from '@ridgeway/core/record'
import type { Program } from '@ridgeway/core/requirements'
import { known, view } from '../define'
import { role, termCode, workId } from '../values'
import { SeatNews } from './student'

export const Account = z.object({ id: z.number(), name: z.string(), username: z.string(), role })
export type Account = z.infer<typeof Account>

const Session = z.object({ account: Account.nullable(), now: z.string(), zone: z.string(), demo: z.boolean() })
export const readSession = view({ name: 'session', path: '/api/session', who: 'everybody', input: z.object({}), output: Session,
  stamp: 'none', words: 'Who is signed in, null for nobody, and what time it is.' })

const DemoAccount = Account.omit({ id: true }).extend({ story: z.string() })
export type DemoAccount = z.infer<typeof DemoAccount>
export const readDemoAccounts = view({ name: 'demo accounts', path: '/api/session/demo', who: 'everybody', demo: true,
  input: z.object({}), output: z.array(DemoAccount), stamp: 'none', words: 'The accounts that the demonstration offers.' })

export const readCatalog = view({ name: 'catalog', path: '/api/catalog', who: 'signed in', input: z.object({}),
  output: z.object({ stamp: z.number(), name: z.string(), zone: z.string(), money: known<MoneyPolicy>('MoneyPolicy'),
    advising: known<AdvisingPolicy>('AdvisingPolicy'), termsText: z.string(), offerHours: z.number(),
    sites: known<Site[]>('Site, a list'), travel: known<TravelTime[]>('TravelTime, a list'),
    programs: known<Record<string, Program>>('Program, by id'), courses: known<Course[]>('Course, a list'),
    terms: known<Term[]>('Term, a list'), scale: known<GradeScale>('GradeScale'), repeatPolicy: known<RepeatPolicy>('RepeatPolicy'),
    problems: known<CatalogProblem[]>('CatalogProblem, a list') }),
  stamp: 'catalog in the news', words: 'The college, its calendar, courses and programs.' })

export const readCounts = view({ name: 'college counts', path: '/api/college/counts', who: 'office', input: z.object({}),
  output: z.record(z.string(), z.number()), stamp: 'none', words: 'How many rows each table of the college\'s folder has now.' })
export const readFolder = view({ name: 'college folder', path: '/api/college', who: 'office', input: z.object({}),
  output: z.object({ files: z.record(z.string(), z.string()) }), stamp: 'none',
  words: 'The whole college as the files of a folder, which reads back as the same college.' })
export const readWork = view({ name: 'work under way', path: '/api/work', who: 'office', input: z.object({ id: workId }),
  output: z.object({ work: z.object({ stage: z.string(), done: z.number(), total: z.number() }).nullable() }), stamp: 'none',
  words: 'How far a piece of work is that was begun under this name; null before it began and after it ended.' })
export const readRosterFiles = view({ name: 'college roster', path: '/api/college/roster', who: 'office', input: z.object({}),
  output: z.object({ files: z.record(z.string(), z.string()) }), stamp: 'none',
  words: 'The college as a roster of the open standard, version 1.1: its terms, courses, classes, people and who is registered.' })
export const readRecordsAndPlans = view({ name: 'records and plans', path: '/api/college/plans', who: 'office', input: z.object({}),
  output: z.object({ files: z.record(z.string(), z.string()) }), stamp: 'none',
  words: 'The records and the plans of all students as JSON, which read back as the same records and plans.' })
export const readMetrics = view({ name: 'metrics', path: '/api/metrics', who: 'office', input: z.object({}), output: z.string(),
  stamp: 'none',
  words: 'What the server that answers counted of itself since it started, in the common text format; a token that reads may ask.' })
export const readServer = view({ name: 'figures of this server', path: '/api/server', who: 'office', input: z.object({}),
  output: z.object({ up: z.number(), pages: z.number(), memory: z.number(), lag: z.number(),
    routes: z.array(z.object({ method: z.string(), route: z.string(), count: z.number(), failed: z.number(), median: z.number(),
      p95: z.number() })),
    nodes: z.array(z.object({ name: z.string(), isUp: z.boolean(), isWriter: z.boolean() })),
    slow: z.array(z.object({ at: z.string(), method: z.string(), route: z.string(), status: z.number(), ms: z.number(),
      spans: z.array(z.object({ what: z.string(), at: z.number(), ms: z.number() })) })) }), stamp: 'none',
  words: 'How the server that answers does: seconds since it started, its routes with times in ms, memory in bytes, its lag, and how it '
    + 'sees the nodes of a database cluster (none where there is one database), and the last slow requests with what they waited for.' })
export const readHealth = view({ name: 'health', path: '/api/health', who: 'everybody', input: z.object({}),
  output: z.object({ ok: z.literal(true) }), stamp: 'none', words: 'Whether the server runs and its database answers; 503 when not.' })
export const readReadiness = view({ name: 'readiness', path: '/api/ready', who: 'everybody', input: z.object({}),
  output: z.object({ ready: z.literal(true), college: z.string() }), stamp: 'none',
  words: 'Whether requests can be served: the database answers and holds a college; 503 when not.' })
export const readDescription = view({ name: 'API description', path: '/api/openapi.json', who: 'signed in', input: z.object({}),
  output: z.record(z.string(), z.unknown()), stamp: 'none', words: 'This description, made from the contract (OpenAPI 3.1).' })

const SeatRow = z.object({ id: z.number(), pools: z.array(z.number()), course: z.string(), label: z.string(), part: z.string(),
  capacity: z.number(),
  taken: z.number(), held: z.number(), waiting: z.number(), cancelled: z.boolean(), planned: z.number(),
  /** What the section needs of the office, most pressing first; empty when nothing. */
  need: z.string(), urgency: z.number() })
export type SeatRow = z.infer<typeof SeatRow>
/** What the list of sections can be ordered by. */
export const SEAT_ORDERS = ['need', 'course', 'label', 'part', 'capacity', 'taken', 'held', 'left', 'waiting', 'planned'] as const
export type SeatOrder = typeof SEAT_ORDERS[number]
const SeatList = z.object({ rows: z.array(SeatRow), found: z.number(), sections: z.number(), needing: z.number(), capacity: z.number(),
  taken: z.number() })
export type SeatList = z.infer<typeof SeatList>
export const readSeats = view({ name: 'seats', path: '/api/seats', who: 'office', input: z.object({ term: termCode,
  text: z.string().max(80).default(''), by: z.enum(SEAT_ORDERS).default('need'), down: z.enum(['0', '1']).optional(),
  from: z.coerce.number().int().min(0).default(0), most: z.coerce.number().int().min(1).max(500).default(15) }), output: SeatList,
stamp: 'none', words: 'Seats of a term as they stood a moment ago, with how many students plan each course: those that need the office '
  + 'first, unless another order is asked, and so many from a place in the list.' })
export const readOpenings = view({ name: 'openings', path: '/api/openings', who: 'office', input: z.object({}),
  output: z.array(z.object({ term: z.string(), from: z.string(), program: z.string().nullable(), earnedMin: z.number(),
    words: z.string() })), stamp: 'catalog in the news', words: 'From when whom each term is open to.' })
export const readClock = view({ name: 'clock', path: '/api/standins/clock', who: 'signed in', demo: true, input: z.object({}),
  output: z.object({ now: z.string() }), stamp: 'none', words: 'What the demonstration\'s clock shows.' })
export const readCrowd = view({ name: 'crowd', path: '/api/standins/crowd', who: 'signed in', demo: true,
  input: z.object({ term: termCode }),
  output: z.object({ waiting: z.number(), done: z.number(), registered: z.number(), from: z.string().nullable() }), stamp: 'none',
  words: 'How many of the crowd have pressed, and how many sections they got.' })
export const listenSeats = view({ name: 'news of seats', path: '/api/seats/news', who: 'signed in', input: z.object({ term: termCode }),
  output: SeatNews, stream: true, stamp: 'none: it is the news',
  words: 'An event stream of the seats of a term: all of them, then what changes.' })
