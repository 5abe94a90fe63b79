import { readAdvisees } from '#shared/contract/views/advising'
import { readAdviseesView } from '../views/advisees'

export default serve(readAdvisees, ({ event: _, ...asked }) => readAdviseesView(useDatabase(), asked))
