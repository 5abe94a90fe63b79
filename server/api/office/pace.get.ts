import { readPace } from '#shared/contract/views/office'
import { readPaceView } from '../../views/office'

export default serveView(readPace, readPaceView)
