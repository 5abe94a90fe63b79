import { readGroups } from '#shared/contract/views/find'
import { readGroupsView } from '../../../views/groups'

export default serveView(readGroups, readGroupsView)
