import { Lanes, lanesConnections } from '../acts/lanes'
import { KeptCollege } from '../college/college'
import { Database } from '../db/database'

let opened: Database | undefined
let lanes: Lanes | undefined
const kept = new KeptCollege()

/** The college as this server keeps it. */
export const useKeptCollege = () => kept

function addressOfDatabase(): string {
  const url = process.env.DATABASE_URL
  if (!url) throw new Error('DATABASE_URL is not set: start Ridgeway with ./ridgeway demo, or ./ridgeway start with a DATABASE_URL')
  return url
}

/** The server's one database. */
export const useDatabase = () => opened ??= new Database(addressOfDatabase())

/** Where presses of Register stand in line; with connections of their own, so that reading does not keep them waiting. */
export const useLanes = () =>
  lanes ??= new Lanes(new Database(addressOfDatabase(), lanesConnections()), (db, stamp) => kept.at(db, stamp))

let patient: Database | undefined
/** For what takes its time, such as a whole college's folder: a few connections that wait for minutes. */
export const usePatientDatabase = () =>
  patient ??= new Database(addressOfDatabase(), 4, { connection: 20_000, read: 120_000, write: 300_000 })
