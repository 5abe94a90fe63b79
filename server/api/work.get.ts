import { readWork as declared } from '#shared/contract/views/college'
import { readWork } from '../db/store/long-works'

export default serveView(declared, async ({ db, input }) => ({ work: await readWork(db, input.id) }))
