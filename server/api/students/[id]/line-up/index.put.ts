import { chooseBundles as declared } from '#shared/contract/acts/student'
import { chooseBundles } from '../../../../acts/line-up'

export default serveAct(declared, chooseBundles)
