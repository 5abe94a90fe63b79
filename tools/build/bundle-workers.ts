import { join, resolve } from 'node:path'
import { build } from 'esbuild'

const ROOT = resolve(import.meta.dirname, '../..')

/** Writes the threads that work out files and that register, each with all that it needs, into the folder of the built server. */
export async function bundleWorkers(folder: string): Promise<void> {
  const entryPoints = ['progress', 'registering'].map(name => ({ in: join(ROOT, `server/workers/${name}.ts`), out: `${name}-worker` }))
  await build({ entryPoints, outdir: folder, outExtension: { '.js': '.mjs' }, bundle: true, platform: 'node', format: 'esm',
    target: 'node20', logLevel: 'error', alias: { '#shared': join(ROOT, 'shared') },
    // What it bundles asks for Node's own parts the older way.
    banner: { js: 'import { createRequire } from \'node:module\'; const require = createRequire(import.meta.url)' } })
}
