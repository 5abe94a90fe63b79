import { join, resolve } from 'node:path'
import { build } from 'esbuild'

const ROOT = resolve(import.meta.dirname, '../..')

/** Writes the thread that works out files, with all that it needs, into the folder of the built server. */
export async function bundleWorker(folder: string): Promise<void> {
  await build({ entryPoints: [join(ROOT, 'server/workers/progress.ts')], outfile: join(folder, 'progress-worker.mjs'), bundle: true,
    platform: 'node', format: 'esm', target: 'node20', logLevel: 'error', alias: { '#shared': join(ROOT, 'shared') },
    // What it bundles asks for Node's own parts the older way.
    banner: { js: 'import { createRequire } from \'node:module\'; const require = createRequire(import.meta.url)' } })
}
