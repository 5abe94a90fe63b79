import { Database } from '../db/database'

let opened: Database | undefined

/** The server's one database. */
export function useDatabase(): Database {
  if (!opened) {
    const url = process.env.DATABASE_URL
    if (!url) throw new Error('DATABASE_URL is not set: start Ridgeway with ./ridgeway demo, or ./ridgeway start with a DATABASE_URL')
    opened = new Database(url)
  }
  return opened
}
