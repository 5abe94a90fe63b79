export default defineRoute({ access: 'everybody', handle: async ({ event }) => {
  await clearUserSession(event)
  return { ok: true }
} })
