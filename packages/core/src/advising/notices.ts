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
  | { code: 'note shared' | 'advisor changed' | 'hold placed' | 'hold cleared' | 'program confirmed' }
  /** A section that was registered or waited for does not take place; `offered`: a seat in another bundle is held. */
  | { code: 'section cancelled', offered: boolean, waited: boolean }
)

/** How somebody wants to hear by mail: each thing as it happens, once a day together, or not at all. */
export type NoticeWish = 'at once' | 'digest' | 'none'
