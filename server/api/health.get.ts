export default defineRoute({ access: 'everybody', handle: async () => {
  await useDatabase().execute('SELECT 1')
  return { ok: true }
} })
