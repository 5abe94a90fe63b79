import { setTimeout as wait } from 'node:timers/promises'
import mysql, { type Connection, type RowDataPacket } from 'mysql2/promise'
import { type NodeAddress, readAddresses } from './addresses'

/** Milliseconds between two questions to a node, and after which one that says nothing is taken to be away. */
const EVERY_MS = 300
const PATIENCE_MS = 1000
/** How long a node that was away has to be well before it is used again, so that one that wavers does not draw everybody to and fro. */
const SETTLE_MS = 2000

/** What a node says of itself: whether it serves, and which cluster it belongs to. */
interface Said { isReady: boolean, cluster: string }

interface Known {
  address: NodeAddress
  /** Null while it does not answer. */
  said: Said | null
  /** Since when it is well; 0 for one that was never away. */
  since: number
  connection: Connection | null
  /** Asks it at once. */
  wake: () => void
}

/** How a node is, for those who look after the servers. */
export interface NodeState { name: string, isUp: boolean, isWriter: boolean }

/**
 * The nodes of one cluster as this server sees them: asked all the time, so that a node that dies or hangs is noticed within a second. One
 * of them takes all that is written, the first in the list that is well: two that write at once only make each other repeat. What is read
 * is read from the others. That servers disagree for a moment about who writes costs repetitions, never correctness: the cluster lets only
 * one of two changes to the same row pass.
 */
export class Nodes {
  private static readonly shared = new Map<string, { nodes: Nodes, users: number }>()
  private readonly known: Known[]
  private readonly downs = new Set<(index: number) => void>()
  private stopped = false
  private turn = 0

  private constructor(addresses: readonly NodeAddress[], private readonly tell: (name: string, isUp: boolean) => void) {
    this.known = addresses.map(address => ({ address, said: { isReady: true, cluster: '' }, since: 0, connection: null, wake: () => {} }))
    for (const one of this.known) void this.watch(one)
  }

  /** The nodes behind an address: one watch, however many ask. Each `of` is answered by one `leave`. */
  static of(url: string, tell: (name: string, isUp: boolean) => void = () => {}): Nodes {
    const found = this.shared.get(url) ?? { nodes: new Nodes(readAddresses(url), tell), users: 0 }
    found.users++
    this.shared.set(url, found)
    return found.nodes
  }

  static leave(url: string): void {
    const found = this.shared.get(url)
    if (!found || --found.users > 0) return
    this.shared.delete(url)
    found.nodes.stop()
  }

  /** The node that takes what is written. */
  writer(): number {
    return this.usable()[0] ?? 0
  }

  /** The node for the next reading: the others in turn, the writer where there is no other. */
  reader(): number {
    const [writer = 0, ...others] = this.usable()
    return others.length > 0 ? others[this.turn++ % others.length]! : writer
  }

  /** Something went wrong with a node: it is asked at once. */
  suspect = (index: number) => this.known[index]!.wake()

  /** Hears of each node that went away; gives the call that ends it. */
  onDown(listener: (index: number) => void): () => void {
    this.downs.add(listener)
    return () => this.downs.delete(listener)
  }

  states(): NodeState[] {
    const writer = this.writer()
    return this.known.map((one, i) => ({ name: one.address.name, isUp: this.isUp(one), isWriter: i === writer && this.isUp(one) }))
  }

  /** Those that may be used, in the order of the list; where all have only just come back, these. */
  private usable(): number[] {
    const up = this.known.flatMap((one, i) => this.isUp(one) ? [i] : [])
    const settled = up.filter(i => Date.now() - this.known[i]!.since >= SETTLE_MS)
    return settled.length > 0 ? settled : up
  }

  /** Of hosts that belong to different clusters those of the larger one count: whoever writes to both would have two colleges. */
  private isUp({ said }: Known): boolean {
    if (!said?.isReady) return false
    const clusters = this.known.flatMap(one => one.said?.isReady && one.said.cluster ? [one.said.cluster] : [])
    const size = (cluster: string) => clusters.filter(one => one === cluster).length
    return !said.cluster || clusters.every(other => size(other) < size(said.cluster) || other === said.cluster
      || (size(other) === size(said.cluster) && clusters.indexOf(said.cluster) < clusters.indexOf(other)))
  }

  private async watch(one: Known) {
    while (!this.stopped) {
      const said = await this.ask(one)
      if (this.stopped) return
      this.heard(one, said)
      await new Promise<void>((done) => {
        const timer = setTimeout(done, EVERY_MS)
        timer.unref()
        one.wake = () => {
          clearTimeout(timer)
          done()
        }
      })
    }
  }

  private heard(one: Known, said: Said | null) {
    const before = this.isUp(one)
    one.said = said
    const now = this.isUp(one)
    if (before === now) return
    if (now) one.since = Date.now()
    else for (const listener of this.downs) listener(this.known.indexOf(one))
    this.tell(one.address.name, now)
  }

  private async ask(one: Known): Promise<Said | null> {
    const late = new AbortController()
    try {
      const answer = this.question(one)
      answer.catch(() => {})
      const said = await Promise.race([answer, wait(PATIENCE_MS, null, { signal: late.signal, ref: false })])
      if (said) return said
    }
    catch { /* it is away */ }
    finally {
      late.abort()
    }
    one.connection?.destroy()
    one.connection = null
    return null
  }

  private async question(one: Known): Promise<Said> {
    if (!one.connection) {
      const made = await mysql.createConnection({ uri: one.address.url, connectTimeout: PATIENCE_MS })
      made.on('error', () => {})
      if (this.stopped) made.destroy()
      one.connection = made
    }
    const [rows] = await one.connection.query<RowDataPacket[]>(
      'SHOW GLOBAL STATUS WHERE Variable_name IN (\'wsrep_ready\', \'wsrep_cluster_state_uuid\')')
    const said = new Map(rows.map(row => [row.Variable_name, row.Value]))
    return { isReady: said.get('wsrep_ready') === 'ON', cluster: said.get('wsrep_cluster_state_uuid') ?? '' }
  }

  private stop() {
    this.stopped = true
    for (const one of this.known) {
      one.wake()
      one.connection?.destroy()
    }
  }
}
