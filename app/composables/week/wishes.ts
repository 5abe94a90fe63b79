import type { Weekday } from '@ridgeway/core/catalog'
import type { Weight, Wish } from '@ridgeway/core/weeks'

type Kind = Wish['kind']
/** Wishes that are matters of more and less: they can never be a rule. */
export const NEVER_HARD: readonly Kind[] = ['fewer days', 'fewer gaps', 'less travel']
export const KINDS: Record<Kind, string> = { 'earliest': 'Begin late', 'latest': 'End early', 'day off': 'A day off',
  'keep free': 'Hours kept free', 'fewer days': 'Fewer days on site', 'fewer gaps': 'Fewer waits', 'less travel': 'Less travel',
  'avoid site': 'Not at a site', 'avoid delivery': 'Not online or not on site', 'instructor': 'An instructor', 'group': 'A group',
  'seats left': 'Seats left' }

const MADE: Record<Kind, object> = {
  'earliest': { at: 600 },
  'latest': { at: 960 },
  'day off': { day: 'F' },
  'keep free': { days: ['M', 'W'], start: 780, end: 1020 },
  'fewer days': {},
  'fewer gaps': { pass: 0 },
  'less travel': {},
  'avoid site': { site: '' },
  'avoid delivery': { delivery: 'online live' },
  'instructor': { name: '' },
  'group': { group: '' },
  'seats left': { least: 3 },
}
/** A value of a wish that is chosen: its name in the wish, what it is called, and what there is to choose from. */
export interface WishField {
  key: string
  label: string
  of: 'times' | 'days' | 'sites' | 'deliveries' | 'instructors' | 'groups' | 'seats'
  multiple?: boolean
}
export const WISH_FIELDS: Record<Kind, readonly WishField[]> = {
  'earliest': [{ key: 'at', label: 'Nothing before', of: 'times' }],
  'latest': [{ key: 'at', label: 'Nothing after', of: 'times' }],
  'day off': [{ key: 'day', label: 'Day', of: 'days' }],
  'keep free': [{ key: 'days', label: 'Days', of: 'days', multiple: true }, { key: 'start', label: 'From', of: 'times' },
    { key: 'end', label: 'To', of: 'times' }],
  'fewer days': [],
  'fewer gaps': [],
  'less travel': [],
  'avoid site': [{ key: 'site', label: 'Site', of: 'sites' }],
  'avoid delivery': [{ key: 'delivery', label: 'Nothing that is', of: 'deliveries' }],
  'instructor': [{ key: 'name', label: 'With', of: 'instructors' }],
  'group': [{ key: 'group', label: 'Group', of: 'groups' }],
  'seats left': [{ key: 'least', label: 'At least', of: 'seats' }],
}
/** A new wish of a kind, to be changed: a rule where it can be one. */
export const makeWish = (kind: Kind, values: object = {}): Wish =>
  ({ id: crypto.randomUUID().slice(0, 8), kind, weight: NEVER_HARD.includes(kind) ? 3 : 'hard', ...MADE[kind], ...values }) as Wish

export const WEIGHTS: { value: Weight, title: string }[] = [
  { value: 'hard', title: 'must hold' }, { value: 5, title: 'much' }, { value: 3, title: 'rather' }, { value: 1, title: 'a little' },
]
export const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']
/** Half hours of a day of classes, as minutes. */
export const HALF_HOURS = Array.from({ length: 29 }, (_, i) => 420 + i * 30)
