import { watchPlans } from '../../../services/plan-watch'

/** Tells an open page that the plans or the comments changed, through whichever server that happened. */
export default defineRoute({
  access: 'student file',
  handle: ({ event, student }) => {
    const stream = createEventStream(event)
    const end = watchPlans(useDatabase(), student, news => void stream.push(JSON.stringify(news)), () => void stream.close())
    stream.onClosed(() => {
      end()
      return stream.close()
    })
    return stream.send()
  },
})
