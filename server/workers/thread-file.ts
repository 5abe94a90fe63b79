import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

/**
 * What a thread runs: it stands beside the server's own file; see the build. While the server is being developed that file is this one, run
 * by another.
 */
export const threadFile = (name: 'progress' | 'registering') =>
  join(dirname(import.meta.dev ? fileURLToPath(import.meta.url) : process.argv[1]!), `${name}-worker.mjs`)
