import { setClock as declared } from '#shared/contract/acts/college'
import { setClock } from '../../acts/college'

export default serveAct(declared, setClock)
