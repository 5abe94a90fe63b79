import { customType } from 'drizzle-orm/mysql-core'

/** JSON kept as text: MariaDB's JSON type is text with a check, and its driver gives it back unread. */
export const jsonText = <T>() => customType<{ data: T, driverData: string }>({
  dataType: () => 'longtext',
  toDriver: value => JSON.stringify(value),
  fromDriver: value => JSON.parse(value) as T,
})

/** An instant: ISO 8601 in UTC outside, DATETIME(3) inside. */
export const instant = customType<{ data: string, driverData: string }>({
  dataType: () => 'datetime(3)',
  toDriver: value => value.replace('T', ' ').replace('Z', ''),
  fromDriver: value => `${value.replace(' ', 'T').padEnd(23, value.includes('.') ? '0' : '.000')}Z`,
})

/** A local date, `YYYY-MM-DD`. */
export const localDate = customType<{ data: string, driverData: string }>({ dataType: () => 'date' })
