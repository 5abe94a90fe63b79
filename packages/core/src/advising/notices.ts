import type { Instant, TermCode } from '../catalog/types'
import type { ExceptionKind } from './policy'

/** What somebody is told: what happened, and nothing of what stands in the file. `by` is who did it. */
export type Notice = { by: string } & (
  | { code: 'sign-off asked' | 'signed off' | 'returned' | 'sign-off withdrawn', term: TermCode }
  | { code: 'comment', place: 'plan' | 'term' | 'course' }
  | { code: 'suggested' | 'suggestions answered', count: number }
  | { code: 'exception asked' | 'exception granted' | 'exception declined' | 'exception ended', kind: ExceptionKind }
  | { code: 'program asked' | 'program answered' }
  | { code: 'meeting booked' | 'meeting moved' | 'meeting cancelled', start: Instant, minutes: number }
  | { code: 'note shared' | 'advisor changed' }
)

/** How somebody wants to hear by mail: each thing as it happens, once a day together, or not at all. */
export type NoticeWish = 'at once' | 'digest' | 'none'
