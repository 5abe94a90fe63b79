/** What tests and figures use of `machine.mjs`: a database and servers of their own. */
export const ROOT: string
export const STATE: string
/** A command that a package of ours brings. */
export const bin: (name: string) => string
/** Builds the server when a source file is newer than the last build. */
export function ensureBuild(): Promise<void>
export function freePort(): Promise<number>

export interface RunningDatabase {
  port: number
  url: (database: string) => string
  create: (database: string, fresh?: boolean) => Promise<void>
  signal: (name: 'SIGSTOP' | 'SIGCONT' | 'SIGKILL') => boolean
  stop: () => Promise<void>
}
export function startDatabase(name: string, wantedPort?: number, options?: string[]): Promise<RunningDatabase>

export interface RunningServer {
  address: string
  ended: Promise<number>
  isReady: () => Promise<boolean>
  kill: () => Promise<void>
  stop: () => Promise<void>
}
export function startServer(options: {
  databaseUrl: string
  port: number
  host?: string
  demo: boolean
  log?: string
  env?: Record<string, string>
}): Promise<RunningServer>
