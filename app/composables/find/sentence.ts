import type { Weekday } from '@ridgeway/core/catalog'
import type { Condition } from '@ridgeway/core/find'
import { parseLineRef, type LineRef } from '@ridgeway/core/record'
import { clockTime, DAY_NAMES, joinWords, sayDelivery } from '@ridgeway/words'

/** One choice of a condition, with how many bundles it would leave. */
interface Choice { value: string, words: string, count?: number | undefined, on: boolean }
/** A part of the sentence that the conditions make. */
export interface Part {
  id: Condition
  /** What stands before it in the sentence. */
  before: string
  words: string
  isSet: boolean
  choices: Choice[]
  /** Several can be chosen together. */
  many: boolean
  choose: (value: string) => void
  clear: () => void
}

const FROM = [480, 540, 600, 660, 720, 780]
const TO = [720, 840, 900, 960, 1020, 1080]
/** Parts that stand in the sentence even while nothing is chosen in them. */
const ALWAYS: readonly Condition[] = ['lines', 'canTake', 'fits', 'days', 'hours', 'sites']

/** The conditions of a search as one sentence whose parts open where they stand. */
export function useSentence() {
  const find = useFindStore()
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const requirements = useRequirementsStore()
  const counts = computed(() => find.found?.counts)
  const lineTitle = (ref: LineRef) => requirements.lineAt(ref)?.title ?? parseLineRef(ref).line
  const openLines = computed(() => Object.entries(counts.value?.lines ?? {}).map(([line, bundles]) => ({ line: line as LineRef, bundles,
    title: lineTitle(line as LineRef), open: requirements.lineAt(line as LineRef)?.open ?? 0, hue: requirements.hueAt(line as LineRef) })))

  type Lists = 'lines' | 'days' | 'sites' | 'deliveries' | 'sessions' | 'subjects' | 'levels'
  /** A condition that is a list: what is chosen is put in or taken out. */
  function list(id: Lists, before: string, nothing: string, choices: { value: string, words: string, count?: number | undefined }[],
    read: (value: string) => unknown = value => value): Part {
    const now = (find.search[id] ?? []) as unknown[]
    const named = choices.filter(choice => now.includes(read(choice.value)))
    return { id, before, isSet: now.length > 0, many: true,
      words: named.length > 0 ? joinWords(named.map(choice => choice.words), 'or') : nothing,
      choices: choices.map(choice => ({ ...choice, on: now.includes(read(choice.value)) })),
      choose: (value) => {
        const one = read(value)
        find.set({ [id]: now.includes(one) ? now.filter(other => other !== one) : [...now, one] })
      },
      clear: () => find.set({ [id]: undefined }) }
  }
  function yes(id: 'canTake' | 'fits' | 'seatsLeft' | 'remembered', before: string, set: string, unset: string): Part {
    const isSet = find.search[id] === true
    return { id, before, isSet, many: false, words: isSet ? set : unset,
      choices: [{ value: 'yes', words: set, count: id === 'remembered' ? undefined : counts.value?.[id], on: isSet }, { value: 'no',
        words: unset, on: !isSet }],
      choose: value => find.set({ [id]: value === 'yes' || undefined }), clear: () => find.set({ [id]: undefined }) }
  }
  function one(id: 'instructor' | 'group', before: string, nothing: string, of: Record<string, number> | undefined): Part {
    const now = find.search[id]
    return { id, before, isSet: Boolean(now), many: false, words: now ?? nothing,
      choices: Object.entries(of ?? {}).sort((a, b) => a[0].localeCompare(b[0])).map(([value, count]) => ({ value, words: value, count,
        on: value === now })),
      choose: value => find.set({ [id]: value === now ? undefined : value }), clear: () => find.set({ [id]: undefined }) }
  }
  const hours = (): Part => {
    const { from, to } = find.search
    return { id: 'hours', before: 'between', isSet: from !== undefined || to !== undefined, many: true,
      words: from === undefined && to === undefined ? 'any hours' : `${clockTime(from ?? 0)} – ${clockTime(to ?? 1440)}`,
      choices: [...FROM.map(at => ({ value: `from ${at}`, words: `not before ${clockTime(at)}`, on: from === at })),
        ...TO.map(at => ({ value: `to ${at}`, words: `not after ${clockTime(at)}`, on: to === at }))],
      choose: (value) => {
        const [end, at] = value.split(' ') as ['from' | 'to', string]
        find.set({ [end]: find.search[end] === Number(at) ? undefined : Number(at) })
      },
      clear: () => find.set({ from: undefined, to: undefined }) }
  }
  const counted = (of: Partial<Record<string, number>> | undefined, words: (value: string) => string) =>
    Object.entries(of ?? {}).map(([value, count]) => ({ value, words: words(value), count }))
  const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F', 'S', 'U']

  const parts = computed((): Part[] => [
    list('lines', 'that count for', 'anything', [{ value: 'open', words: 'any open line' },
      ...openLines.value.map(({ line, title, bundles }) => ({ value: line as string, words: title, count: bundles }))]),
    yes('canTake', 'that', 'I can take', 'are offered'),
    yes('fits', 'and', 'fit my week', 'fit my week or not'),
    yes('seatsLeft', 'with', 'seats left', 'seats left or not'),
    list('days', 'on', 'any days', DAYS.map(day => ({ value: day as string, words: DAY_NAMES[day], count: counts.value?.days[day] ?? 0 }))),
    hours(),
    list('sites', 'at', 'any site', catalog.sites.map(site => ({ value: site.code, words: site.name,
      count: counts.value?.sites[site.code] ?? 0 }))),
    list('deliveries', 'given', 'in any way', counted(counts.value?.deliveries, value => sayDelivery(value as 'on site'))),
    list('sessions', 'in', 'any part of the term', counted(counts.value?.sessions, value =>
      workingTerm.term?.sessions.find(session => session.code === value)?.name ?? value)),
    list('subjects', 'in', 'any subject', counted(counts.value?.subjects, value => value)),
    list('levels', 'at level', 'any', counted(counts.value?.levels, value => `${value}00`), Number),
    one('instructor', 'with', 'any instructor', counts.value?.instructors),
    yes('remembered', 'that', 'are on the shortlist', 'may be on the shortlist'),
    one('group', 'in group', 'any or none', counts.value?.groups),
  ])
  const shown = computed(() => parts.value.filter(part => part.isSet || ALWAYS.includes(part.id)))
  const others = computed(() => parts.value.filter(part => !part.isSet && !ALWAYS.includes(part.id)))
  /** The whole sentence, for a heading that is heard. */
  const said = computed(() => `Sections in ${workingTerm.term?.name ?? ''} ${
    shown.value.filter(part => part.isSet).map(part => `${part.before} ${part.words}`).join(', ')}`.trim())
  const partOf = (id: Condition) => parts.value.find(part => part.id === id)!
  return { shown, others, openLines, said, partOf }
}
