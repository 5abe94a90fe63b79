import { DateTime } from 'luxon'

/** True while somebody types into a field, where letters are letters. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null
  return event.defaultPrevented || (target !== null && (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable))
}

/** An instant as the college's clock shows it. */
export function toLocal(instant: string, zone: string): DateTime {
  return DateTime.fromISO(instant, { zone })
}
