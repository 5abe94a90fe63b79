import { CommentRequest } from '#shared/requests'
import { addComment } from '../../../services/plans'

export default defineRoute({ access: 'student file', body: CommentRequest,
  handle: ({ student, account, body }) => addComment(useDatabase(), { student, author: account.id, ...body }) })
