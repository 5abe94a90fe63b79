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
export function useRibbon(courses: () => readonly { course: string, bundles: BundleView[] }[] | null, ghost: () => BundleView | null,
  instead: () => Readonly<Record<string, string>> | null = () => null) {
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const { hueOfCourse } = useItems()
  const chosen = computed(() => courses()?.flatMap(({ bundles }) => bundles.filter(bundle => bundle.picked || bundle.registered)) ?? [])
  const shown = computed(() => {
    const pointed = ghost()
    const arranged = instead()
    // An arrangement that is looked at stands in place of what is picked.
    if (arranged)
      return (courses() ?? []).flatMap(({ course, bundles }) => bundles.filter(one => one.id === arranged[course]).map(bundle => ({ bundle,
        state: bundle.registered ? 'registered' as const : bundle.picked ? 'picked' as const : 'considering' as const })))
    return [
      ...chosen.value.map(bundle => ({ bundle, state: bundle.registered ? 'registered' as const : 'picked' as const })),
      ...pointed && !chosen.value.some(bundle => bundle.id === pointed.id) ? [{ bundle: pointed, state: 'considering' as const }] : [],
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
    delivery === 'online live' ? 'online, live' : site === usualSite.value ? room : `${room}, ${catalog.siteName(site)}`
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
          clash: instead() ? '' : clashOf(bundle),
        })),
      ),
    ),
  )
  const noSetTime = computed(() =>
    shown.value.filter(({ bundle }) => bundle.sections.every((section: Section) => section.meetings.length === 0)),
  )
  return { chosen, bars, noSetTime }
}
