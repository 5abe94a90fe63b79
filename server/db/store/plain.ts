import type { Executor } from '../database'

/** A plain statement with placeholders: the builder costs several times as much, which counts where many people press at once. */
export async function plain<Row>(db: Executor, text: string, values: readonly unknown[] = []): Promise<Row[]> {
  const { $client } = db as unknown as { $client: { query: (text: string, values: unknown[]) => Promise<[unknown, unknown]> } }
  const [rows] = await $client.query(text, values as unknown[])
  return rows as Row[]
}

/** A statement with the values of its placeholders. */
export type Statement = readonly [text: string, values: readonly unknown[]]

/**
 * Several statements in one round trip, in order, each of them seeing what was there when it began; the results of those that read.
 * When one fails, those after it are not done. What was done before stays part of the transaction, as with statements one by one.
 */
export async function together(db: Executor, statements: readonly Statement[]): Promise<unknown[][]> {
  if (statements.length === 0) return []
  const text = `BEGIN NOT ATOMIC ${statements.map(([one]) => `${one};`).join(' ')} END`
  const results: unknown = await plain<unknown>(db, text, statements.flatMap(([, values]) => values))
  // Where nothing reads, there is only the one header that tells that all went well.
  return Array.isArray(results) ? results.filter((one): one is unknown[] => Array.isArray(one)) : []
}

/** As `plain`, for a statement that changes rows: how many it found. */
export async function change(db: Executor, text: string, values: readonly unknown[] = []): Promise<number> {
  const done = await plain(db, text, values) as unknown as { affectedRows: number }
  return done.affectedRows
}

/** `DATETIME(3)` as the driver gives it, as an ISO 8601 instant. */
export const toInstant = (text: string) => `${text.replace(' ', 'T').padEnd(23, text.includes('.') ? '0' : '.000')}Z`
/** An ISO 8601 instant as `DATETIME(3)`. */
export const fromInstantText = (instant: string) => instant.replace('T', ' ').replace('Z', '')
