import { readCrowd } from '#shared/contract/views/college'
import { readCrowdState } from '../../db/store/crowd'

export default serveView(readCrowd, ({ db, input }) => readCrowdState(db, input.term))
