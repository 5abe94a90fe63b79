import type { Section } from '@ridgeway/core/catalog'
import type { Problem } from '~/composables/useApi'

/** Takes a course out of the line-up, with an offer to put the same bundle back. */
export function useTakeOut() {
  const week = useWeekStore()
  const problem = ref<Problem | null>(null)
  const taken = shallowRef<{ course: string, sections: number[] } | null>(null)
  const offersUndo = useUndoOffer()
  const words = computed(() => taken.value ? `${taken.value.course} is taken out of the line-up.` : '')

  async function takeOut(course: string) {
    const bundle = week.courses?.find(one => one.course === course)?.bundles.find(one => one.picked)
    problem.value = await week.choose({ course, sectionIds: [] })
    if (problem.value) return
    taken.value = { course, sections: bundle?.sections.map((section: Section) => section.id) ?? [] }
    offersUndo.value = taken.value.sections.length > 0
    announce(words.value)
  }
  async function undo() {
    if (!taken.value) return
    const { course, sections } = taken.value
    problem.value = await week.choose({ course, sectionIds: sections })
    if (!problem.value) announce(`${course} is in the line-up again.`)
  }
  return { problem, words, offersUndo, takeOut, undo }
}
