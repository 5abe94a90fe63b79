import { readPlan } from '#shared/contract/views/student'
import { readPlanView } from '../../../../../views/student'

export default serveView(readPlan, readPlanView)
