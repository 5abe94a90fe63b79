import { describeContract } from '#shared/contract/openapi'
import { readDescription } from '#shared/contract/views/college'

export default serveView(readDescription, () => describeContract())
