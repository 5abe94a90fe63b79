import { resolve } from 'node:path'
import { loadDemo } from '../../demo/load'
import { connect } from '../../server/db/connect'
import { applyMigrations } from '../../server/db/migrations'
import { benchAdvisees } from './advisees'
import { benchArrangements } from './arrangements'
import { benchDraft } from './draft'
import type { Figure } from './figure'
import { benchForecast } from './forecast'
import { benchFirstView } from './first-view'
import { benchLarge } from './large'
import { benchLaws } from './laws'
import { benchMorning } from './morning'
import { benchRegistration } from './registration'
import { benchSearch } from './search'
import { benchSeats } from './seats'
import { benchServers } from './servers'
import { benchAllocation, benchRecheck } from './standings'
import { benchTyping } from './typing'

/** `./ridgeway bench [name …] [--json]` */
const BENCHES = {
  'allocation': async (url: string) =>
    withDatabase(url, async (db) => {
      await loadDemo(db)
      return benchAllocation(db)
    }),
  'recheck': () => benchRecheck(),
  'draft': () => benchDraft(),
  'arrangements': () => benchArrangements(),
  'forecast': () => Promise.resolve(benchForecast()),
  'search': () => benchSearch(),
  'registration': (url: string) => withDatabase(url, benchRegistration),
  'seats': (url: string) =>
    withDatabase(url, async (db) => {
      await loadDemo(db)
      return benchSeats(db, url)
    }),
  'advisees': (url: string) =>
    withDatabase(url, async (db) => {
      await loadDemo(db)
      return benchAdvisees(db, url)
    }),
  'first-view': (url: string) =>
    withDatabase(url, async (db) => {
      await loadDemo(db)
      return benchFirstView(url)
    }),
  'large': (url: string) => benchLarge(url),
  'laws': () => Promise.resolve(benchLaws()),
  'morning': (url: string) => withDatabase(url, db => benchMorning(db, url)),
  'servers': (url: string) =>
    withDatabase(url, async (db) => {
      await loadDemo(db)
      return benchServers(db, url)
    }),
  'typing': (url: string) =>
    withDatabase(url, async (db) => {
      await loadDemo(db)
      return benchTyping(db, url)
    }),
}

async function withDatabase(url: string, work: (db: ReturnType<typeof connect>['db']) => Promise<Figure[]>): Promise<Figure[]> {
  const name = new URL(url).pathname.slice(1)
  const admin = connect(url, 1)
  await admin.db.execute(`DROP DATABASE IF EXISTS ${name}`)
  await admin.db.execute(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`)
  await admin.close()
  const { db, close } = connect(url)
  await applyMigrations(db, resolve(import.meta.dirname, '../../server/db/migrations'))
  try {
    return await work(db)
  }
  finally {
    await close()
  }
}

const args = process.argv.slice(2)
const json = args.includes('--json')
const names = args.filter(arg => arg !== '--json')
const unknown = names.find(name => !(name in BENCHES))
if (unknown) {
  console.error(`There is no figure "${unknown}". Figures: ${Object.keys(BENCHES).join(', ')}.`)
  process.exit(2)
}
const figures: Figure[] = []
for (const name of (names.length > 0 ? names : Object.keys(BENCHES)) as (keyof typeof BENCHES)[])
  figures.push(...await BENCHES[name](process.env.DATABASE_URL!))
if (json) console.log(JSON.stringify(figures, null, 2))
else for (const f of figures)
  console.log(
    `${f.name.padEnd(34)} ${String(f.value).padStart(9)} ${f.unit.padEnd(8)} ratio ${String(f.ratio ?? '–').padStart(7)}   ${
      f.target ? `target ${f.target}: ${f.ok ? 'reached' : 'not reached'}` : ''
    }   (${f.reference})`,
  )
