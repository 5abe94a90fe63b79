import type { PlanOperation, Standing } from '@ridgeway/core/planning'
import { formatCredits, sayCheck } from '@ridgeway/words'

/** Edits the plan and says in one line what the move changed. */
export function usePlanEdit() {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const changed = ref('')

  async function edit(operations: PlanOperation[], what: string) {
    if (operations.length === 0) return
    const before = student.standing!
    const sending = student.edit(operations)
    const after = student.standing!
    changed.value = after === before ? '' : [what, ...differences(before, after)].join(' · ')
    const problem = await sending
    if (problem) changed.value = `${what}: ${problem}.`
  }

  function differences(before: Standing, after: Standing): string[] {
    const parts: string[] = []
    const covered = before.open - after.open
    parts.push(
      covered === 0
        ? 'covers the same'
        : covered > 0
          ? `covers ${formatCredits(covered)} cr more`
          : `${formatCredits(-covered)} cr open again`,
    )
    if (before.finish !== after.finish) parts.push(after.finish ? `finish ${catalog.term(after.finish)?.name}` : 'not all covered')
    else if (after.finish) parts.push('finish unchanged')
    const old = new Set(before.checks.map(check => check.id))
    const now = new Set(after.checks.map(check => check.id))
    for (const check of after.checks.filter(c => !old.has(c.id)).slice(0, 2)) parts.push(sayCheck(check))
    const mended = before.checks.filter(check => !now.has(check.id)).length
    if (mended > 0) parts.push(`${count(mended, 'problem')} mended`)
    return parts
  }

  async function undo() {
    changed.value = student.done.length ? 'Undone' : 'Nothing to undo'
    await student.undo()
  }
  async function redo() {
    changed.value = student.undone.length ? 'Done again' : 'Nothing to do again'
    await student.redo()
  }
  return { changed, edit, undo, redo }
}
