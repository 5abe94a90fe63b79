import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client'
import { timeOf } from '@ridgeway/core/office'
import type { NodeState } from '../db/nodes'
import type { Span } from '../db/trace'
import { useDatabase } from './database'
import { openWatches } from '../views/news'

/** A request that took long, with what it waited for; the newest first, so many of them. */
interface Slow { at: string, method: string, route: string, status: number, ms: number, spans: Span[] }
const MOST_SLOW = 20

/** Seconds by which answers are told apart. */
const BOUNDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.15, 0.25, 0.5, 1, 2.5, 5, 10]

/** What this server counts of itself since it started; no name of anybody, and no address but the route's pattern, is in it. */
class Metrics {
  readonly registry = new Registry()
  private readonly answers = new Histogram({ name: 'ridgeway_request_seconds', help: 'Seconds until a request was answered, by route.',
    labelNames: ['method', 'route', 'status'] as const, buckets: BOUNDS, registers: [this.registry] })

  private readonly slow: Slow[] = []

  constructor() {
    collectDefaultMetrics({ register: this.registry })
    new Gauge({ name: 'ridgeway_open_pages', help: 'Pages that listen for news.', registers: [this.registry],
      collect() {
        this.set(openWatches())
      } })
    this.tellNodes('ridgeway_database_up', 'Whether a database of the cluster serves, as this server sees it.', node => node.isUp)
    this.tellNodes('ridgeway_database_writer', 'Whether this server writes to the database.', node => node.isWriter)
  }

  /** A figure of 0 or 1 for each database of a cluster; none where there is one database alone. */
  private tellNodes(name: string, help: string, of: (node: NodeState) => boolean) {
    new Gauge({ name, help, labelNames: ['node'] as const, registers: [this.registry], collect() {
      for (const node of useDatabase().states()) this.set({ node: node.name }, Number(of(node)))
    } })
  }

  answered(request: { method: string, route: string, status: number }, seconds: number) {
    this.answers.observe({ method: request.method, route: request.route, status: `${Math.floor(request.status / 100)}xx` }, seconds)
  }

  /** Keeps what a slow request waited for; of many the last. */
  keepSlow(one: Slow) {
    this.slow.unshift(one)
    this.slow.length = Math.min(this.slow.length, MOST_SLOW)
  }

  slowLately = (): readonly Slow[] => this.slow

  /** Each route with its answers: how many, how many failed by the server's own fault, and how long they took in milliseconds. */
  async routes() {
    const found = new Map<string, { method: string, route: string, count: number, failed: number, upTo: number[] }>()
    for (const { labels, value, metricName } of (await this.answers.get()).values) {
      const key = `${labels.method} ${labels.route}`
      const one = found.get(key) ?? { method: String(labels.method), route: String(labels.route), count: 0, failed: 0,
        upTo: BOUNDS.map(() => 0) }
      found.set(key, one)
      if (metricName?.endsWith('_count')) {
        one.count += value
        if (labels.status === '5xx') one.failed += value
      }
      const at = metricName?.endsWith('_bucket') ? BOUNDS.indexOf(Number((labels as { le?: string | number }).le)) : -1
      if (at >= 0) one.upTo[at]! += value
    }
    const ms = (timed: Parameters<typeof timeOf>[0], share: number) => Math.round((timeOf(timed, share) ?? 0) * 10_000) / 10
    return [...found.values()].map(({ upTo, ...one }) => {
      const timed = { bounds: BOUNDS, upTo, count: one.count }
      return { ...one, median: ms(timed, 0.5), p95: ms(timed, 0.95) }
    }).sort((a, b) => b.count - a.count || (a.route < b.route ? -1 : 1))
  }
}

let metrics: Metrics | undefined
export const useMetrics = () => metrics ??= new Metrics()
