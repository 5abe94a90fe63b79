import type { Section } from '@ridgeway/core/catalog'
import { clockTime, describeTimes, sayFinding } from '@ridgeway/words'
import type { FoundBundle } from '#shared/contract/views/find'

/** How a bundle that was found is said: when, where, whether it fits and why not, and how many seats. */
export function useFoundBundle() {
  const { sessionOf, sayPlaces, saySeats, sayMisfit } = useBundleSaying()
  const week = useWeekStore()
  const workingTerm = useWorkingTermStore()
  const sectionsOf = (bundle: FoundBundle): Section[] => bundle.sections

  /** What stands in the week besides: picked or registered, of other courses. */
  const besideOf = (bundle: FoundBundle) => (week.courses ?? []).filter(one => one.course !== bundle.course)
    .flatMap(({ bundles }) => bundles.filter(one => one.picked || one.registered).flatMap(one => one.sections as Section[]))
  const freeBlocks = computed(() => week.wishes.flatMap(wish => wish.kind === 'keep free' ? [wish] : []))

  const sayWhen = (bundle: FoundBundle) => [describeTimes(bundle.sections), sessionOf(bundle)].filter(Boolean).join(' · ')
  const sayWhere = (bundle: FoundBundle) => sayPlaces(bundle, true).join(', ') || 'Online'
  const sayDates = (bundle: FoundBundle) => {
    const session = workingTerm.term?.sessions.find(one => one.code === sectionsOf(bundle)[0]!.session)
    return session ? `${longDate(session.start)} – ${longDate(session.end)}` : ''
  }
  function sayFit(bundle: FoundBundle): { words: string, blocks: boolean } {
    const misfit = sayMisfit(bundle)
    if (misfit !== null) return { words: misfit, blocks: true }
    return { words: bundle.registered ? 'registered' : bundle.picked ? 'picked · fits' : 'fits', blocks: false }
  }
  const sayRefusal = ({ refusals }: FoundBundle) => refusals.map(one => sayFinding(one))
  const sayBundle = (bundle: FoundBundle) => [`${bundle.course}-${sectionsOf(bundle)[0]!.label}`, sayWhen(bundle), sayWhere(bundle),
    sayFit(bundle).words, saySeats(bundle)].join(', ')
  const sayExam = (section: Section) => section.exam
    ? `${longDate(section.exam.date)}, ${clockTime(section.exam.start)}–${clockTime(section.exam.end)}`
    : ''
  return { besideOf, freeBlocks, sayWhen, sayWhere, sayDates, saySeats, sayFit, sayRefusal, sayBundle, sayExam }
}
