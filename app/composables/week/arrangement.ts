import type { Section } from '@ridgeway/core/catalog'
import { clashBetween } from '@ridgeway/core/weeks'
import { clockTime } from '@ridgeway/words'
import type { Arrangement } from '~/workers/arrange.worker'

/** Arrangements beside what is picked: as blocks for a picture, in words, and what would be exchanged. */
export function useArrangement() {
  const week = useWeekStore()
  const workingTerm = useWorkingTermStore()
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const { hueOfCourse } = useItems()
  const { sectionsOf } = useArrangeInput()
  /** By course the bundle that is picked or registered. */
  const picked = computed(() => Object.fromEntries((week.courses ?? []).flatMap(({ course, bundles }) => {
    const chosen = bundles.find(bundle => bundle.picked || bundle.registered)
    return chosen ? [[course, chosen.id]] : []
  })))
  const changesOf = ({ choices }: Arrangement) => Object.entries(choices).filter(([course, id]) => picked.value[course] !== id)
  const labelOf = (course: string, id: string) => `${course}-${sectionsOf(course, id)[0]?.label ?? ''}`

  const blocksOf = ({ choices }: Arrangement) =>
    Object.entries(choices).flatMap(([course, id]) => sectionsOf(course, id).flatMap((section: Section) =>
      section.meetings.flatMap(meeting => meeting.days.map(day => ({ day, start: meeting.start, end: meeting.end,
        hue: hueOfCourse(course, workingTerm.code), changed: picked.value[course] !== id })))))
  /** Days, hours and waits of the typical week. */
  function sayWeek(arrangement: Arrangement): string {
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
  function distinctionOf(arrangement: Arrangement, others: readonly Arrangement[]): string {
    const measures: [string, (one: Arrangement) => number][] = [
      ['fewest days', one => new Set(blocksOf(one).map(block => block.day)).size],
      ['begins latest', one => -Math.min(1440, ...blocksOf(one).map(block => block.start))],
      ['ends earliest', one => Math.max(0, ...blocksOf(one).map(block => block.end))],
      ['least exchanged', one => changesOf(one).length],
      ['fewest classes', one => blocksOf(one).length],
    ]
    return measures.filter(([, of]) => others.every(other => other === arrangement || of(arrangement) < of(other))).map(([words]) => words)
      .slice(0, 2).join(', ')
  }
  /** Backups that would fit into a week in place of its choice, as labels. */
  function backupsIn({ choices }: Arrangement): string[] {
    const { term } = workingTerm
    if (!term) return []
    return (student.state?.lineUp ?? []).flatMap(row => row.backups.flatMap((ids) => {
      const bundle = week.courses?.find(one => one.course === row.course)?.bundles.find(one => one.id === ids.join('+'))
      if (!bundle || choices[row.course] === bundle.id) return []
      const clashes = Object.entries(choices).some(([course, id]) => course !== row.course
        && clashBetween(bundle.sections, sectionsOf(course, id), term, catalog.travel) !== null)
      return clashes ? [] : [labelOf(row.course, bundle.id)]
    }))
  }
  /** Takes a week: all that differs is chosen in one act. */
  const take = (arrangement: Arrangement) =>
    week.choose(...changesOf(arrangement).map(([course, id]) => ({ course,
      sectionIds: sectionsOf(course, id).map((section: Section) => section.id) })))
  return { picked, changesOf, labelOf, blocksOf, sayWeek, distinctionOf, backupsIn, take }
}
