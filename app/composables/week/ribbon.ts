import type { Meeting, Section } from '@ridgeway/core/catalog'
import type { BundleView } from '#shared/contract/views/student'

/** One meeting of a section as a bar of the week. */
export interface WeekBar {
  key: string
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

/** What a bundle cannot stand beside, as the decision found it. */
function clashOf({ decision }: BundleView): string {
  const finding = decision.findings.find(one => !one.ok && (one.code === 'clash' || one.code === 'own-clash'))
  if (finding?.code === 'own-clash') return 'clashes with itself'
  if (finding?.code !== 'clash') return ''
  return finding.clash.kind === 'overlap' ? `clashes with ${finding.course}` : `too little time from ${finding.course}`
}

/** The bundles that stand in the week, picked or registered, and the one that is pointed at; as bars, and those with no set time. */
export function useRibbon(courses: () => readonly { course: string, bundles: BundleView[] }[] | null, ghost: () => BundleView | null) {
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const { hueOfCourse } = useItems()
  const chosen = computed(() => courses()?.flatMap(({ bundles }) => bundles.filter(bundle => bundle.picked || bundle.registered)) ?? [])
  const shown = computed(() => {
    const pointed = ghost()
    return [
      ...chosen.value.map(bundle => ({ bundle, state: bundle.registered ? 'registered' as const : 'picked' as const })),
      ...pointed && !chosen.value.some(bundle => bundle.id === pointed.id) ? [{ bundle: pointed, state: 'considering' as const }] : [],
    ]
  })
  /** A site is said where the week has more than one. */
  const hasSites = computed(() =>
    new Set(shown.value.flatMap(({ bundle }) =>
      bundle.sections.flatMap((section: Section) =>
        section.delivery === 'online live' ? [] : section.meetings.map(meeting => meeting.site),
      ),
    )).size > 1,
  )
  const placeOf = ({ delivery }: Section, { room, site }: Meeting) =>
    delivery === 'online live' ? 'online, live' : hasSites.value ? `${room}, ${catalog.siteName(site)}` : room
  const bars = computed(() =>
    shown.value.flatMap(({ bundle, state }) =>
      bundle.sections.flatMap((section: Section) =>
        section.meetings.map((meeting): WeekBar => ({
          key: `${section.id}-${state}`,
          label: `${section.course}-${section.label}`,
          where: placeOf(section, meeting),
          part: section.part === 'lecture' ? '' : section.part,
          session: section.session,
          meeting,
          state,
          hue: hueOfCourse(section.course, workingTerm.code),
          clash: clashOf(bundle),
        })),
      ),
    ),
  )
  const noSetTime = computed(() =>
    shown.value.filter(({ bundle }) => bundle.sections.every((section: Section) => section.meetings.length === 0)),
  )
  return { chosen, bars, noSetTime }
}
