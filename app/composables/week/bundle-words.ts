import type { Section } from '@ridgeway/core/catalog'
import { refusalsOf } from '@ridgeway/core/next'
import { seatsFor } from '@ridgeway/core/registration'
import { breaksWish } from '@ridgeway/core/weeks'
import type { BundleView } from '#shared/contract/views/student'
import type { SaidBundle } from '../bundles'

/** How a bundle of the week is said: where, how many seats, whether it fits and why not, and its place among the backups. */
export function useBundleWords() {
  const student = useStudentStore()
  const week = useWeekStore()
  const saying = useBundleSaying()
  const sectionsOf = (bundle: BundleView): Section[] => bundle.sections

  const free = (bundle: BundleView) => Math.min(...sectionsOf(bundle).map(section => seatsFor(section, student.groups)))
  /** The bundle as it is said everywhere. */
  const read = (bundle: BundleView): SaidBundle => ({ sections: bundle.sections, registered: bundle.registered, seats: free(bundle),
    waiting: Math.max(...sectionsOf(bundle).map(section => section.waiting)), refusals: refusalsOf(bundle.decision.findings),
    hits: hits(bundle) })
  const saySeats = (bundle: BundleView) => saying.saySeats(read(bundle))
  const where = (bundle: BundleView) => saying.sayPlaces(bundle, false).join(' + ') || 'Online, any time'
  const { sessionOf } = saying
  const timesOf = (bundle: BundleView) => `${bundle.times} ${sessionOf(bundle)}${bundle.times === 'any time' ? bundle.id : ''}`
  /** The blocks kept free that it falls into. */
  const hits = (bundle: BundleView) => week.wishes.flatMap(wish => wish.kind === 'keep free' && breaksWish(wish, { id: bundle.id,
    sections: bundle.sections, seats: 0 })
    ? [wish.name ?? '']
    : [])
  function sayFit(bundle: BundleView): { words: string, blocks: boolean } {
    const misfit = saying.sayMisfit(read(bundle))
    if (misfit !== null) return { words: misfit, blocks: true }
    const left = leaves(bundle)
    return { words: left ? `fits · leaves group ${left}, whose other sections are only sure to keep clear of each other` : 'fits',
      blocks: false }
  }
  /** The group that most other picks stand in, where this course has it too and this bundle is not of it; empty otherwise. */
  function leaves(bundle: BundleView): string {
    const counts = new Map<string, number>()
    for (const { course, bundles } of week.courses ?? [])
      for (const one of bundles)
        if (course !== bundle.course && (one.picked || one.registered) && one.sections[0]!.group)
          counts.set(one.sections[0]!.group, (counts.get(one.sections[0]!.group) ?? 0) + 1)
    const [group] = [...counts].filter(([, n]) => n >= 2).sort((a, b) => b[1] - a[1])[0] ?? ['']
    const hasIt = week.courses?.find(one => one.course === bundle.course)?.bundles.some(one => one.sections[0]!.group === group)
    return group && hasIt && bundle.sections[0]!.group !== group ? group : ''
  }
  const fits = (bundle: BundleView) => bundle.registered || !sayFit(bundle).blocks
  const idsOf = (bundle: BundleView) => sectionsOf(bundle).map(section => section.id)
  const rowOf = (course: string) => student.state?.lineUp.find(row => row.course === course)
  const isSame = (a: readonly number[], b: readonly number[]) => a.length === b.length && a.every(id => b.includes(id))
  const backupsOf = (course: string) => rowOf(course)?.backups ?? []
  const backupPlace = (bundle: BundleView) => {
    const place = backupsOf(bundle.course).findIndex(ids => isSame(ids, idsOf(bundle)))
    return place < 0 ? '' : `backup ${place + 1}`
  }
  const sayBundle = (bundle: BundleView) =>
    [`${bundle.course}-${sectionsOf(bundle)[0]!.label}`, bundle.times, where(bundle), sessionOf(bundle), saySeats(bundle),
      backupPlace(bundle), bundle.registered ? '' : sayFit(bundle).words].filter(Boolean).join(', ')
  return { free, saySeats, sayFit, fits, sayBundle, where, sessionOf, timesOf, backupPlace, backupsOf, idsOf, isSame, rowOf }
}
