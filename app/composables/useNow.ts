import { DateTime } from 'luxon'

/** The college's time, ticking every second, in its own zone: one clock for all that shows or counts. */
export function useNow() {
  const { instant, local, today } = storeToRefs(useSessionStore())
  return { instant, local, today }
}

/** "3 d 4 h", "12:41": the time left until an instant, coarse when far and exact when near; empty when it has passed. */
export function timeLeft(from: string, until: string): string {
  const seconds = Math.ceil((Date.parse(until) - Date.parse(from)) / 1000)
  if (seconds <= 0) return ''
  const [days, hours, minutes] = [Math.floor(seconds / 86400), Math.floor(seconds / 3600), Math.floor(seconds / 60)]
  if (days >= 2) return `${days} d ${hours % 24} h`
  if (hours >= 1) return `${hours} h ${minutes % 60} min`
  return `${minutes}:${String(seconds % 60).padStart(2, '0')}`
}

/** An instant as the college's clock shows it. */
export function toLocal(instant: string, zone: string): DateTime {
  return DateTime.fromISO(instant, { zone })
}

/** What the college's clock shows, such as `2026-11-09T08:00`, as an instant; empty where it is no moment. */
export function fromLocal(text: string, zone: string): string {
  const moment = DateTime.fromISO(text, { zone })
  return moment.isValid ? moment.toUTC().toISO({ suppressMilliseconds: false }) : ''
}
