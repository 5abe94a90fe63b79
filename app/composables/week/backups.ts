import type { BundleView } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

/** Puts a bundle behind the backups of its course, or takes it out of them. */
export function useBackups() {
  const week = useWeekStore()
  const { backupsOf, backupPlace, idsOf, isSame, rowOf } = useBundleWords()
  const problem = ref<Problem | null>(null)
  async function toggle(bundle: BundleView) {
    if (!rowOf(bundle.course)) {
      problem.value = { code: 'no-first-choice', title: `Pick a first choice for ${bundle.course} before its backups.`, status: 0,
        detail: 'A backup is taken when the first choice is full.' }
      return
    }
    const ids = idsOf(bundle)
    const isOne = backupPlace(bundle) !== ''
    const backups = isOne ? backupsOf(bundle.course).filter(other => !isSame(other, ids)) : [...backupsOf(bundle.course), ids]
    problem.value = await week.setUp(bundle.course, { backups })
    const name = `${bundle.course}-${bundle.sections[0]!.label}`
    if (!problem.value) announce(`${name} is ${isOne ? 'no backup any more' : `backup ${backups.length}`}.`)
  }
  return { problem, toggle }
}
