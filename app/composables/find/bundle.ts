import type { Section } from '@ridgeway/core/catalog'
import { clockTime, describeTimes, sayFinding, sayShortly } from '@ridgeway/words'
import type { FoundBundle } from '#shared/contract/views/find'

/** How a bundle that was found is said: when, where, whether it fits and why not, and how many seats. */
export function useFoundBundle() {
  const catalog = useCatalogStore()
  const week = useWeekStore()
  const workingTerm = useWorkingTermStore()
  const sectionsOf = (bundle: FoundBundle): Section[] => bundle.sections

  /** What stands in the week besides: picked or registered, of other courses. */
  const besideOf = (bundle: FoundBundle) => (week.courses ?? []).filter(one => one.course !== bundle.course)
    .flatMap(({ bundles }) => bundles.filter(one => one.picked || one.registered).flatMap(one => one.sections as Section[]))
  const freeBlocks = computed(() => week.wishes.flatMap(wish => wish.kind === 'keep free' ? [wish] : []))

  const sessionOf = (bundle: FoundBundle) => {
    const { session } = sectionsOf(bundle)[0]!
    return session === 'full' ? '' : workingTerm.term?.sessions.find(one => one.code === session)?.name.toLowerCase() ?? session
  }
  const sayWhen = (bundle: FoundBundle) => [describeTimes(bundle.sections), sessionOf(bundle)].filter(Boolean).join(' · ')
  const sayWhere = (bundle: FoundBundle) => [...new Set(sectionsOf(bundle).flatMap(section => section.meetings.map(meeting =>
    meeting.site === 'online' ? catalog.siteName(meeting.site) : `${catalog.siteName(meeting.site)} · ${meeting.room}`)))].join(', ')
  || 'Online'
  const sayDates = (bundle: FoundBundle) => {
    const session = workingTerm.term?.sessions.find(one => one.code === sectionsOf(bundle)[0]!.session)
    return session ? `${longDate(session.start)} – ${longDate(session.end)}` : ''
  }
  const saySeats = ({ seats, waiting, registered }: FoundBundle) =>
    registered ? 'registered' : seats > 0 ? `${seats} left` : `full${waiting > 0 ? ` · ${waiting} wait` : ''}`
  function sayFit({ refusals, hits, registered, picked }: FoundBundle): { words: string, blocks: boolean } {
    if (registered) return { words: 'registered', blocks: false }
    const [first] = refusals
    if (first) return { words: sayShortly(first), blocks: true }
    if (hits.length > 0) return { words: `hits keep-free${hits[0] ? `: ${hits[0]}` : ''}`, blocks: true }
    return { words: picked ? 'picked · fits' : 'fits', blocks: false }
  }
  const sayRefusal = ({ refusals }: FoundBundle) => refusals.map(one => sayFinding(one))
  const sayBundle = (bundle: FoundBundle) => [`${bundle.course}-${sectionsOf(bundle)[0]!.label}`, sayWhen(bundle), sayWhere(bundle),
    sayFit(bundle).words, saySeats(bundle)].join(', ')
  const sayExam = (section: Section) => section.exam
    ? `${longDate(section.exam.date)}, ${clockTime(section.exam.start)}–${clockTime(section.exam.end)}`
    : ''
  return { besideOf, freeBlocks, sayWhen, sayWhere, sayDates, saySeats, sayFit, sayRefusal, sayBundle, sayExam }
}
