import { readSection } from '#shared/contract/views/office'
import { readSectionView } from '../views/office'

export default serveView(readSection, readSectionView)
