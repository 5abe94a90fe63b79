import type { Section } from '@ridgeway/core/catalog'
import { clockTime } from '@ridgeway/words'
import type { Arrangement } from '~/workers/arrange.worker'

/** Arrangements beside what is picked: as blocks for a picture, in words, and what would be exchanged. */
export function useArrangement() {
  const week = useWeekStore()
  const workingTerm = useWorkingTermStore()
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
  /** Takes a week: all that differs is chosen in one act. */
  const take = (arrangement: Arrangement) =>
    week.choose(...changesOf(arrangement).map(([course, id]) => ({ course,
      sectionIds: sectionsOf(course, id).map((section: Section) => section.id) })))
  return { picked, changesOf, labelOf, blocksOf, sayWeek, take }
}
