import { readOtherTerms } from '#shared/contract/views/student'
import { readOtherTermsView } from '../../../views/week'

export default serveView(readOtherTerms, readOtherTermsView)
