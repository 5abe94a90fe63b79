import { readSection } from '#shared/contract/views/find'
import { readSectionSheet } from '../../../views/find'

export default serveView(readSection, readSectionSheet)
