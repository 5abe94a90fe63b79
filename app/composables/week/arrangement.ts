import type { Section } from '@ridgeway/core/catalog'
import { fillPlaceholder } from '@ridgeway/core/planning'
import { freshEntryId } from '@ridgeway/core/record'
import { clashBetween } from '@ridgeway/core/weeks'
import { clockTime } from '@ridgeway/words'
import { LIMITS } from '#shared/contract/limits'
import type { Problem } from '~/composables/useApi'
import type { Chosen } from '~/stores/week'
import type { StandIn } from './ribbon'
import type { Arrangement } from '~/workers/arrange.worker'

type Looked = Pick<Arrangement, 'choices'>

/** Arrangements beside what is picked: as blocks for a picture, in words, and what would be exchanged. */
export function useArrangement() {
  const week = useWeekStore()
  const workingTerm = useWorkingTermStore()
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const { hueOfCourse } = useItems()
  const { sectionsOf, placeOf } = useArrangeInput()
  const together = useTogetherStore()
  /** By course the bundle that is picked or registered. */
  const picked = computed(() => Object.fromEntries((week.courses ?? []).flatMap(({ course, bundles }) => {
    const chosen = bundles.find(bundle => bundle.picked || bundle.registered)
    return chosen ? [[course, chosen.id]] : []
  })))
  const changesOf = ({ choices }: Looked) => Object.entries(choices).filter(([course, id]) => picked.value[course] !== id)
  /** Of a place it is the course that is chosen for it. */
  const courseOf = (place: string, id: string) => placeOf(place) ? sectionsOf(place, id)[0]?.course ?? place : place
  const labelOf = (course: string, id: string) => `${courseOf(course, id)}-${sectionsOf(course, id)[0]?.label ?? ''}`
  /** A choice in words; for a place also what it is taken for. */
  const sayChoice = (place: string, id: string) => `${labelOf(place, id)}${placeOf(place) ? ` for ${placeOf(place)!.title}` : ''}`
  const hueOf = (place: string, id: string) => {
    const course = courseOf(place, id)
    const found = placeOf(place)?.courses.find(one => one.course === course)
    return found?.countsFor.find(one => one.line === placeOf(place)?.line)?.hue ?? hueOfCourse(course, workingTerm.code)
  }

  const blocksOf = ({ choices }: Looked) =>
    Object.entries(choices).flatMap(([course, id]) => sectionsOf(course, id).flatMap((section: Section) =>
      section.meetings.flatMap(meeting => meeting.days.map(day => ({ day, start: meeting.start, end: meeting.end,
        hue: hueOf(course, id), changed: picked.value[course] !== id })))))
  /**
   * The bundles of an arrangement as the ribbon draws them in place of what is picked. A bundle that is not there any more is not drawn:
   * what was arranged is older than the places and courses until it is worked out anew.
   */
  const standIns = ({ choices }: Looked): StandIn[] => Object.entries(choices).map(([course, id]): StandIn => ({ id,
    course: courseOf(course, id), sections: sectionsOf(course, id), hue: hueOf(course, id),
    state: isRegistered(course) ? 'registered' : picked.value[course] === id ? 'picked' : 'considering' }))
    .filter(one => one.sections.length > 0)
  /** Days, hours and waits of the typical week. */
  function sayWeek(arrangement: Looked): string {
    const blocks = blocksOf(arrangement)
    if (blocks.length === 0) return 'no set times'
    const days = [...new Set(blocks.map(block => block.day))]
    const waits = days.reduce((sum, day) => {
      const mine = blocks.filter(block => block.day === day).sort((a, b) => a.start - b.start)
      return sum + mine.slice(1).reduce((gaps, block, i) => gaps + Math.max(0, block.start - mine[i]!.end), 0)
    }, 0)
    return `${count(days.length, 'day')}, ${clockTime(Math.min(...blocks.map(one => one.start)))}–${
      clockTime(Math.max(...blocks.map(one => one.end)))}, ${waits < 30 ? 'no waits' : `${Math.round(waits / 6) / 10} h of waits`}`
  }
  /** What a week is the best in among the first ones, in a word or two; empty where nothing tells it from them. */
  function distinctionOf(arrangement: Looked, others: readonly Looked[]): string {
    const measures: [string, (one: Looked) => number][] = [
      ['fewest days', one => new Set(blocksOf(one).map(block => block.day)).size],
      ['begins latest', one => -Math.min(1440, ...blocksOf(one).map(block => block.start))],
      ['ends earliest', one => Math.max(0, ...blocksOf(one).map(block => block.end))],
      ['least exchanged', one => changesOf(one).length],
      ['fewest classes', one => blocksOf(one).length],
    ]
    return measures.filter(([, of]) => others.every(other => other === arrangement || of(arrangement) < of(other))).map(([words]) => words)
      .slice(0, 2).join(', ')
  }
  const idsOf = (course: string, id: string) => sectionsOf(course, id).map((section: Section) => section.id)
  /** Backups on file that would fit into a week in place of its choice, by course. */
  function keptBackups({ choices }: Looked): Record<string, string[]> {
    const { term } = workingTerm
    if (!term) return {}
    return Object.fromEntries((student.state?.lineUp ?? []).map(row => [row.course, row.backups.flatMap((ids) => {
      const bundle = week.courses?.find(one => one.course === row.course)?.bundles.find(one => one.id === ids.join('+'))
      if (!bundle || choices[row.course] === bundle.id) return []
      const clashes = Object.entries(choices).some(([course, id]) => course !== row.course
        && clashBetween(bundle.sections, sectionsOf(course, id), term, catalog.travel) !== null)
      return clashes ? [] : [bundle.id]
    })]))
  }
  const backupLabels = (backups: Record<string, string[]>) =>
    Object.entries(backups).flatMap(([course, ids]) => ids.map(id => labelOf(course, id))).sort()
  /** The backups of a week by course: those on file that still fit, then those that were found for it; none of what is registered. */
  function backupsOf(arrangement: Arrangement): Record<string, string[]> {
    const kept = keptBackups(arrangement)
    return Object.fromEntries(Object.entries(arrangement.backups).filter(([course]) => !isRegistered(course))
      .map(([course, ids]) => [course, [...new Set([...kept[course] ?? [], ...ids])].slice(0, LIMITS.backups)]))
  }
  const isRegistered = (course: string) =>
    week.courses?.find(one => one.course === course)?.bundles.some(bundle => bundle.registered) ?? false

  /** Takes a week: all that differs is chosen in one act, with its backups or without; places that it fills are filled in the plan. */
  async function take(arrangement: Arrangement, withBackups: boolean): Promise<Problem | null> {
    const backups = withBackups ? backupsOf(arrangement) : {}
    const filled = Object.entries(arrangement.choices).flatMap(([id, bundle]) => {
      const place = placeOf(id)
      return place ? [{ place, course: courseOf(id, bundle) }] : []
    })
    const operations = filled.flatMap(({ place, course }) =>
      fillPlaceholder({ id: place.id, line: place.line, term: workingTerm.code }, catalog.courses.get(course)!,
        freshEntryId(course, workingTerm.code, id => student.entries.some(entry => entry.id === id))))
    const changed = new Set(changesOf(arrangement).map(([course]) => course))
    const touched = Object.entries(arrangement.choices).filter(([course]) => changed.has(course) || backups[course])
    const choices = touched.map(([course, id]): Chosen => ({ course: courseOf(course, id), sectionIds: idsOf(course, id),
      ...backups[course] ? { backups: backups[course].map(backup => idsOf(course, backup)) } : {} }))
    const names = filled.map(({ place, course }) => `${course} for ${place.title}`)
    const picks = changed.size > 0 ? `${count(changed.size, 'bundle')} picked` : 'as it is picked'
    return together.take(operations, choices, `The week is taken: ${picks}${
      names.length > 0 ? `, ${names.join(', ')} planned` : ''}${
      withBackups ? `, with ${count(backupLabels(backups).length, 'backup')}` : ''}.`)
  }
  return { picked, changesOf, labelOf, standIns, blocksOf, sayWeek, sayChoice, distinctionOf, backupsOf, backupLabels, take }
}
