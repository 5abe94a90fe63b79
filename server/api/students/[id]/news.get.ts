import { listen } from '#shared/contract/views/student'
import { findTerm } from '../../../college/college'
import { watchStudent } from '../../../views/news'
import { watchSeats } from '../../../views/seat-news'

/** Tells an open page that something changed, through whichever server that happened; ends when access ends. */
export default serve(listen, async ({ event, college, student, visitor, input }) => {
  if (input.term) findTerm(college, input.term)
  const stream = openStream(event)
  const stop = watchStudent(useDatabase(), useKeptCollege(), { student, session: visitor!.session, person: visitor!.id,
    isSeen: visitor!.role !== 'office',
    tell: news => void stream.push(JSON.stringify(news)), end: () => void stream.close() })
  const stopSeats = input.term
    ? watchSeats(useDatabase(), useKeptCollege(), input.term, data => void stream.push({ event: 'seats', data }))
    : () => {}
  stream.onClosed(() => {
    stop()
    stopSeats()
    return stream.close()
  })
  return stream.send()
})
