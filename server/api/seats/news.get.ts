import { listenSeats } from '#shared/contract/views/college'
import { findTerm } from '../../college/college'
import { watchSeats } from '../../views/seat-news'

/** Tells the seats of a term as they change; what is told is the same for everybody. */
export default serve(listenSeats, async ({ event, college, input }) => {
  findTerm(college, input.term)
  const stream = createEventStream(event)
  const stop = watchSeats(useDatabase(), useKeptCollege(), input.term, data => void stream.push({ event: 'seats', data }))
  stream.onClosed(() => {
    stop()
    return stream.close()
  })
  return stream.send()
})
