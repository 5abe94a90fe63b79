import { type Meeting, type Section, shiftDate, type Term, type Weekday } from '@ridgeway/core/catalog'
import { expandMeeting, weekdayOf } from '@ridgeway/core/weeks'
import { clockTime, DAY_NAMES } from '@ridgeway/words'
import type { BundleView } from '#shared/contract/views/student'

/** One meeting of a section as a bar of the week. */
export interface WeekBar {
  key: string
  /** Ids of the bundle's sections, joined: what its sheet is opened by. */
  bundle: string
  label: string
  where: string
  part: string
  session: string
  meeting: Meeting
  state: 'picked' | 'registered' | 'considering'
  hue: string
  /** What it clashes with, in words; empty when it does not. */
  clash: string
}
/** A bundle of an arrangement that is looked at, in place of what is picked. */
export interface StandIn { id: string, course: string, sections: readonly Section[], state: WeekBar['state'], hue: string }
/** Hours kept free, as the week draws them. */
export interface FreeBlock { id: string, days: readonly Weekday[], start: number, end: number, name?: string | undefined }
/** One day of a week by date: its date, and what is special about it. */
export interface WeekDay { date: string, note: string, free: boolean }

/** What a bundle cannot stand beside, as the decision found it. */
function clashOf({ decision }: BundleView): string {
  const finding = decision.findings.find(one => !one.ok && (one.code === 'clash' || one.code === 'own-clash'))
  if (finding?.code === 'own-clash') return 'clashes with itself'
  if (finding?.code !== 'clash') return ''
  return finding.clash.kind === 'overlap' ? `clashes with ${finding.course}` : `too little time from ${finding.course}`
}

/** The days of the week that begins on a Monday, with what is special about them. */
export function daysOfWeek(monday: string, term: Pick<Term, 'noClass' | 'movedDays'>): Record<Weekday, WeekDay> {
  return Object.fromEntries((['M', 'T', 'W', 'R', 'F', 'S', 'U'] as const).map((day, i) => {
    const date = shiftDate(monday, i)
    const none = term.noClass.find(one => one.date === date)
    const moved = term.movedDays.find(one => one.date === date)
    return [day, { date, free: none !== undefined, note: none
      ? `${none.name}, no classes`
      : moved
        ? `runs as a ${DAY_NAMES[moved.follows]}`
        : '' }]
  })) as Record<Weekday, WeekDay>
}

/**
 * The bundles that stand in the week, picked or registered, and the one that is pointed at; as bars, and those with no set time. Of the
 * typical week, or with `monday` of the real week that begins then.
 */
export function useRibbon(courses: () => readonly { course: string, bundles: BundleView[] }[] | null, ghost: () => BundleView | null,
  instead: () => readonly StandIn[] | null = () => null, monday: () => string = () => '') {
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const { hueOfCourse } = useItems()
  const chosen = computed(() => courses()?.flatMap(({ bundles }) => bundles.filter(bundle => bundle.picked || bundle.registered)) ?? [])
  const shown = computed(() => {
    const pointed = ghost()
    const arranged = instead()
    // An arrangement that is looked at stands in place of what is picked.
    if (arranged) return arranged.map(bundle => ({ bundle, state: bundle.state, clash: '' }))
    return [
      ...chosen.value.map(bundle => ({ bundle, clash: clashOf(bundle),
        state: bundle.registered ? 'registered' as const : 'picked' as const })),
      ...pointed && !chosen.value.some(bundle => bundle.id === pointed.id)
        ? [{ bundle: pointed, clash: clashOf(pointed), state: 'considering' as const }]
        : [],
    ]
  })
  /** Where most of the week takes place: only another site is said. Null where no site stands out. */
  const usualSite = computed(() => {
    const times = new Map<string, number>()
    for (const { bundle } of shown.value)
      for (const { delivery, meetings } of bundle.sections as Section[])
        if (delivery !== 'online live')
          for (const { site, days } of meetings) times.set(site, (times.get(site) ?? 0) + days.length)
    const [first, second] = [...times].sort((a, b) => b[1] - a[1])
    return first && first[1] !== second?.[1] ? first[0] : null
  })
  const placeOf = ({ delivery }: Section, { room, site }: Meeting) =>
    delivery === 'online live' || site === 'online'
      ? 'online, live'
      : site === usualSite.value
        ? room
        : `${room}, ${catalog.siteName(site)}`
  /** The meetings to draw: of a typical week all but what happens only once, of a real one each on its date. */
  function meetingsOf({ meetings }: Section): Meeting[] {
    const week = monday()
    const { term } = workingTerm
    if (!week || !term) return meetings.filter(meeting => meeting.first !== meeting.last)
    const days = daysOfWeek(week, term)
    return meetings.flatMap(meeting => expandMeeting(meeting, term).filter(({ date }) => date >= days.M.date && date <= days.U.date)
      .map(({ date }) => ({ ...meeting, days: [weekdayOf(date)] })))
  }
  const bars = computed(() =>
    shown.value.flatMap(({ bundle, state, clash }) =>
      (bundle.sections as readonly Section[]).flatMap(section =>
        meetingsOf(section).map((meeting, i): WeekBar => ({
          key: `${section.id}-${state}-${i}`,
          bundle: bundle.id,
          label: `${section.course}-${section.label}`,
          where: placeOf(section, meeting),
          part: section.part === 'lecture' ? '' : section.part,
          session: section.session,
          meeting,
          state,
          hue: 'hue' in bundle ? bundle.hue : hueOfCourse(section.course, workingTerm.code),
          clash,
        })),
      ),
    ),
  )
  /** What stays when the pointer moves on: texts about the week are about this alone, so that nothing moves under the pointer. */
  const firm = computed(() => shown.value.filter(one => one.state !== 'considering'))
  const noSetTime = computed(() =>
    firm.value.filter(({ bundle }) => bundle.sections.every((section: Section) => section.meetings.length === 0)),
  )
  /** What meets on a single day only, and is not seen in a typical week. */
  const single = computed(() => firm.value.flatMap(({ bundle }) => bundle.sections.flatMap((section: Section) =>
    section.meetings.filter(meeting => meeting.first === meeting.last).map(meeting =>
      `${section.course}-${section.label}: ${meeting.room} on ${
        longDate(meeting.first)}, ${clockTime(meeting.start)}–${clockTime(meeting.end)}`))))
  /** The days of every section that can be pointed at: the ribbon has a row for them all from the beginning. */
  const allDays = computed(() => new Set((courses() ?? []).flatMap(one => one.bundles)
    .flatMap(bundle => (bundle.sections as readonly Section[]).flatMap(meetingsOf)).flatMap(meeting => meeting.days)))
  return { chosen, bars, noSetTime, single, allDays }
}
