import type { PlanCheck, PlanOperation } from '@ridgeway/core/planning'

/** What is opened below the board: a tile, a problem, a term, drafting or the wishes. */
export type Panel = { kind: 'tile' | 'problem' | 'term', id: string } | { kind: 'draft' | 'wishes' } | null

/** The opened panel as it stands in the address, and back. */
export function usePlanPanel() {
  const opened = useOpened()
  return computed<Panel>({
    get() {
      const [kind, ...rest] = opened.value.split(':')
      const id = rest.join(':')
      if (kind === 'draft' || kind === 'wishes') return { kind }
      return (kind === 'tile' || kind === 'problem' || kind === 'term') && id ? { kind, id } : null
    },
    set(panel) {
      opened.value = panel === null ? '' : 'id' in panel ? `${panel.kind}:${panel.id}` : panel.kind
    },
  })
}

/** The problems of the plan in the order in which one walks through them: blockers first, then by term. */
export function usePlanProblems(panel: Ref<Panel>, edit: (operations: PlanOperation[], what: string) => Promise<void>) {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const termIndex = (code: string | null) => code === null ? 999 : catalog.terms.findIndex(term => term.code === code)
  const problems = computed(() =>
    [...student.standing?.checks ?? []].sort((a, b) =>
      Number(b.severity === 'blocker') - Number(a.severity === 'blocker')
      || termIndex(a.term) - termIndex(b.term) || a.id.localeCompare(b.id),
    ),
  )
  const blockers = computed(() => problems.value.filter(check => check.severity === 'blocker'))
  const ofTerm = (code: string) => problems.value.filter(check => check.term === code && check.itemId === null)

  /** Does one of the moves that mend the problem at hand; the walk goes on with what came after it. */
  async function mend(operations: PlanOperation[], what: string) {
    const order = problems.value.map(check => check.id)
    const at = panel.value?.kind === 'problem' ? panel.value.id : ''
    await edit(operations, what)
    const left = new Set(problems.value.map(check => check.id))
    const next = [...order.slice(order.indexOf(at)), ...order].find(id => left.has(id))
    if (panel.value?.kind === 'problem') panel.value = { kind: 'problem', id: next ?? 'none' }
  }
  /** What a problem stands at on the board. */
  const placeOf = (check: PlanCheck) =>
    check.itemId ? `[data-item="${CSS.escape(check.itemId)}"]` : check.term ? `[data-foot="${check.term}"]` : null
  return { problems, blockers, ofTerm, mend, placeOf }
}
