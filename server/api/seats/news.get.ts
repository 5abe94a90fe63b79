import { listenSeats } from '#shared/contract/views/college'
import { findTerm } from '../../college/college'
import { seatPages, watchSeats } from '../../views/seat-news'

/** Tells the seats of a term as they change; what is told is the same for everybody. */
export default serve(listenSeats, async ({ event, college, visitor, input }) => {
  findTerm(college, input.term)
  const leave = seatPages.open(visitor!.id)
  const stream = openStream(event)
  const stop = watchSeats(useDatabase(), useKeptCollege(), input.term, data => void stream.push({ event: 'seats', data }))
  stream.onClosed(() => {
    stop()
    leave()
    return stream.close()
  })
  return stream.send()
})
