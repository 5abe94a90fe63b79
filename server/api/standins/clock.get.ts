import { readClock } from '#shared/contract/views/college'

export default serveView(readClock, ({ at }) => ({ now: at }))
