import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { build } from 'esbuild'
import { ROOT, STATE } from './machine.mjs'

/**
 * Builds a program of ours into one file, as the server is built, and tells where it is: what is measured is then the code that runs.
 * Packages stay outside; our own, and what the project names with `#`, come in.
 */
export async function bundle(entry, name) {
  const outfile = join(STATE, 'built', `${name}.mjs`)
  await build({ entryPoints: [join(ROOT, entry)], outfile, bundle: true, platform: 'node', target: 'node20', format: 'esm',
    sourcemap: 'linked', absWorkingDir: ROOT, tsconfig: join(ROOT, 'tsconfig.tools.json'), logLevel: 'warning',
    plugins: [ours] })
  return outfile
}

const ours = {
  name: 'ours',
  setup({ onResolve, onLoad }) {
    onResolve({ filter: /^[^./#]/ }, ({ path, kind }) =>
      kind === 'entry-point' || path.startsWith('@ridgeway/') ? null : { path, external: true })
    // A file is where it was written, not where it is built to.
    onLoad({ filter: /\.(ts|mjs)$/ }, ({ path }) => ({ loader: path.endsWith('.ts') ? 'ts' : 'js',
      contents: readFileSync(path, 'utf8').replaceAll('import.meta.dirname', JSON.stringify(dirname(path))) }))
  },
}
