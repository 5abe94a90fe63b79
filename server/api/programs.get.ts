import { readProgramFile } from '#shared/contract/views/office'
import { readProgramFileView } from '../views/office'

export default serveView(readProgramFile, readProgramFileView)
