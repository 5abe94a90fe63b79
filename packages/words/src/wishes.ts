import type { Weekday } from '@ridgeway/core/catalog'
import type { Element, Wish } from '@ridgeway/core/weeks'
import { joinWords } from './lists'
import { clockTime } from './times'

export const DAY_NAMES: Record<Weekday, string> = { M: 'Monday', T: 'Tuesday', W: 'Wednesday', R: 'Thursday', F: 'Friday', S: 'Saturday',
  U: 'Sunday' }

/** A wish for the week as one reads it; `siteName` turns a site's code into its name. */
export function sayWish(wish: Wish, siteName: (code: string) => string = code => code): string {
  switch (wish.kind) {
    case 'earliest': return `nothing before ${clockTime(wish.at)}`
    case 'latest': return `nothing after ${clockTime(wish.at)}`
    case 'day off': return `${DAY_NAMES[wish.day]} off`
    case 'keep free':
      return `${joinWords(wish.days.map(day => DAY_NAMES[day]), 'and')} ${clockTime(wish.start)}–${clockTime(wish.end)} kept free${
        wish.name ? ` (${wish.name})` : ''}`
    case 'avoid site': return `nothing at ${siteName(wish.site)}`
    case 'avoid delivery': return `nothing ${wish.delivery}`
    case 'instructor': return `with ${wish.name}`
    case 'group': return `in group ${wish.group}`
    case 'seats left': return `at least ${wish.least} seats left`
    case 'fewer days': return 'fewer days on site'
    case 'fewer gaps': return wish.pass > 0 ? `no waits over ${wish.pass} minutes` : 'fewer waits between classes'
    case 'less travel': return 'less travel'
  }
}

/** Something that had to hold, where not all could. */
export function sayElement(element: Element, siteName?: (code: string) => string): string {
  if (element.kind === 'course') return element.course
  return element.kind === 'pin' ? `${element.course} as it is picked` : `“${sayWish(element.wish, siteName)}”`
}
