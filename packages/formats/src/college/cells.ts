import { COURSE_CODE, type Weekday } from '@ridgeway/core/catalog'

/** How one cell of a table is read and written: people's notation on paper, the core's units inside. */
export interface Cell<T> {
  /** What is expected, as the documents and the problems say it. */
  words: string
  /** The value, or undefined where the text is none. */
  read(text: string): T | undefined
  write(value: T): string
}

const where = <T>(words: string, read: (text: string) => T | undefined, write: (value: T) => string): Cell<T> => ({ words, read, write })

export const text = (most: number, least = 0): Cell<string> =>
  where(`${least > 0 ? '' : 'nothing, or '}text of at most ${most} characters`,
    value => value.length >= least && value.length <= most ? value : undefined, value => value)
export const matching = (pattern: RegExp, words: string): Cell<string> =>
  where(words, value => pattern.test(value) ? value : undefined, value => value)

export const courseCode = matching(COURSE_CODE, 'a course code such as HYD 230')
export const termCode = matching(/^\d{4}(SP|SU|FA)$/, 'a term code such as 2027SP')
export const programId = matching(/^[A-Z][A-Z0-9-]{1,18}-\d{4}$/, 'a program with its catalog year, such as WSC-BS-2025')
export const username = matching(/^[a-z0-9][a-z0-9._-]{0,39}$/, 'a name to sign in with: small letters, digits, dots and hyphens')

/** A real day of the calendar: the 30th of February is none. */
export const isDate = (value: string) => /^\d{4}-\d{2}-\d{2}$/.test(value) && !Number.isNaN(Date.parse(`${value}T00:00:00Z`))
  && new Date(`${value}T00:00:00Z`).toISOString().startsWith(value)
export const date: Cell<string> = where('a date such as 2027-01-11', value => isDate(value) ? value : undefined, value => value)
export const instant: Cell<string> = where('a moment in UTC such as 2026-11-09T15:00:00.000Z',
  value => /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}\.\d{3}Z$/.test(value) && isDate(value.slice(0, 10)) && !Number.isNaN(Date.parse(value))
    ? value
    : undefined, value => value)

export const whole = (least: number, most: number): Cell<number> =>
  where(`a whole number from ${least} to ${most}`,
    value => /^\d{1,9}$/.test(value) && Number(value) >= least && Number(value) <= most ? Number(value) : undefined, String)
/** Hundredths inside, at most two decimals outside: credits, and money in cents. */
const hundredths = (words: string, most: number): Cell<number> =>
  where(words, (value) => {
    if (!/^\d{1,7}(\.\d{1,2})?$/.test(value)) return undefined
    const amount = Math.round(Number(value) * 100)
    return amount <= most * 100 ? amount : undefined
  }, value => String(value / 100))
export const credits = hundredths('credits such as 3 or 1.5, at most 60', 60)
export const money = hundredths('an amount such as 45 or 12.50', 100_000)

export const yesNo: Cell<boolean> = where('yes or no', value => value === 'yes' ? true : value === 'no' ? false : undefined,
  value => value ? 'yes' : 'no')
export const oneOf = <T extends string>(...values: readonly T[]): Cell<T> =>
  where(`one of: ${values.join(', ')}`, value => values.find(one => one === value), value => value)
/** Nothing stands for null. */
export const orNull = <T>(cell: Cell<T>): Cell<T | null> =>
  where(`nothing, or ${cell.words}`, value => value === '' ? null : cell.read(value), value => value === null ? '' : cell.write(value))

const SEPARATOR = '; '
/** Several values with semicolons between them. */
export const list = <T>(cell: Cell<T>, most = 60): Cell<T[]> =>
  where(`any number of them with a semicolon between: ${cell.words}`, (value) => {
    const parts = value.split(';').map(part => part.trim()).filter(part => part !== '')
    const read = parts.map(part => cell.read(part))
    return parts.length <= most && read.every(one => one !== undefined) ? read as T[] : undefined
  }, values => values.map(one => cell.write(one).replaceAll(';', ',')).join(SEPARATOR))

/** A cell made of named parts by a pattern with as many groups. */
export const shaped = <T>(words: string, pattern: RegExp, read: (groups: string[]) => T | undefined,
  write: (value: T) => string): Cell<T> =>
  where(words, (value) => {
    const match = pattern.exec(value)
    return match ? read(match.slice(1).map(group => group ?? '')) : undefined
  }, write)

const clock = (minutes: number) => `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
export const timeOfDay: Cell<number> = shaped('a time such as 09:30', /^([01]\d|2[0-3]):([0-5]\d)$/,
  ([hours, minutes]) => Number(hours) * 60 + Number(minutes), clock)
const WEEKDAYS: readonly Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']
export const weekday: Cell<Weekday> = oneOf(...WEEKDAYS)
export const weekdays: Cell<Weekday[]> = where('days of the week such as MWF (R is Thursday, U Sunday)', (value) => {
  const days = [...value] as Weekday[]
  return days.length > 0 && days.every(day => WEEKDAYS.includes(day)) && new Set(days).size === days.length ? days : undefined
}, days => days.join(''))
