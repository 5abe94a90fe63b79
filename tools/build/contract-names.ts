import type { Plugin } from 'vite'

/** What stands for the schemas in the browser: whatever is asked of it, it is still that. */
const NOTHING = 'const z = new Proxy(function () {}, { get: (_, name) => name === Symbol.iterator ? undefined : z, apply: () => z })'

/**
 * The contract as the browser needs it: names, addresses, who may and what changes. What goes in and out is checked by the server, so the
 * schemas, and the library that reads them, stay there.
 */
export const contractNames = (): Plugin => ({
  name: 'ridgeway:contract-names',
  enforce: 'pre',
  transform: (code, id) =>
    id.includes('/shared/contract/') ? { code: code.replace(/^import \{ z \} from 'zod'$/m, NOTHING), map: null } : undefined,
})
