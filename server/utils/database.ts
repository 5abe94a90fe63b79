import { connect, type Database } from '../db/connect'

let opened: ReturnType<typeof connect> | undefined

/** The server's one pool. */
export function useDatabase(): Database {
  if (!opened) {
    const url = process.env.DATABASE_URL
    if (!url) throw new Error('DATABASE_URL is not set: start Ridgeway with ./ridgeway demo, or ./ridgeway start with a DATABASE_URL')
    opened = connect(url)
  }
  return opened.db
}
