import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const alias = {
  '#shared': fileURLToPath(new URL('./shared', import.meta.url)),
}

/** How long is waited for what other processes do: a machine may be busy, and how quick it is, is the bench's business. */
const patience = { poll: { timeout: 60_000 } }

export default defineConfig({
  test: {
    projects: [
      { resolve: { alias },
        test: { name: 'unit',
          include: ['packages/**/*.test.ts', 'app/**/*.test.ts', 'demo/**/*.test.ts', 'tests/references/**/*.test.ts',
            'tests/cases/**/*.test.ts', 'tools/**/*.test.ts'], testTimeout: 120_000 } },
      { resolve: { alias },
        test: { name: 'server', include: ['tests/load/**/*.test.ts', 'server/**/*.test.ts'], testTimeout: 180_000, hookTimeout: 60_000,
          expect: patience, fileParallelism: false } },
      // Three databases and two servers that are killed and hang: by itself, since it takes minutes.
      { resolve: { alias },
        test: { name: 'cluster', include: ['tests/cluster/**/*.test.ts'], testTimeout: 180_000, hookTimeout: 60_000,
          expect: patience, fileParallelism: false } },
    ],
  },
})
