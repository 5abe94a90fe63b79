import { listen } from '#shared/contract/views/student'
import { watchStudent } from '../../../views/news'

/** Tells an open page that something changed, through whichever server that happened; ends when access ends. */
export default serve(listen, async ({ event, student, visitor }) => {
  const stream = createEventStream(event)
  const stop = watchStudent(useDatabase(), { student, session: visitor!.session, person: visitor!.id,
    tell: news => void stream.push(JSON.stringify(news)), end: () => void stream.close() })
  stream.onClosed(() => {
    stop()
    return stream.close()
  })
  return stream.send()
})
