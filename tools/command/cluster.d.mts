/** What tests use of `cluster.mjs`: three databases that hold the same. */
export interface ClusterNode {
  port: number
  state: () => Promise<string | null>
  signal: (name: 'SIGSTOP' | 'SIGCONT') => boolean
  start: () => Promise<void>
  stop: (signal?: 'SIGTERM' | 'SIGKILL') => Promise<void>
}
export interface Cluster {
  nodes: ClusterNode[]
  /** The address of a database on all of them. */
  url: (database: string) => string
  ensure: (database: string) => Promise<void>
  stop: () => Promise<void>
}
export function startCluster(name: string, options?: { fresh?: boolean }): Promise<Cluster>
