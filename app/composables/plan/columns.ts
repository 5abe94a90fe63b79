import type { Term } from '@ridgeway/core/catalog'
import type { usePlanBoard } from './board'

/** Which terms and lanes stand on the screen: on a phone one term at a time, else all, narrower when they are many. */
export function usePlanColumns(board: ReturnType<typeof usePlanBoard>, isFuture: (term: Term) => boolean) {
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const isPhone = useMediaQuery('(max-width: 700px)')
  const phoneCode = ref(workingTerm.code)
  const phoneTerms = computed(() => catalog.terms.filter(term => isFuture(term) || board.columns.value.includes(term)))
  const phoneAt = computed(() => Math.max(0, phoneTerms.value.findIndex(term => term.code === phoneCode.value)))
  const columns = computed(() =>
    isPhone.value ? phoneTerms.value.slice(phoneAt.value, phoneAt.value + 1) : [...board.pastColumns.value, ...board.columns.value],
  )
  const showsEarlier = computed(() => !isPhone.value && !board.showPast.value)
  const isWide = computed(() => columns.value.length > 7)
  const template = computed(() =>
    isPhone.value
      ? '116px 1fr'
      : `${isWide.value ? 132 : 150}px ${
        showsEarlier.value ? (isWide.value ? '74px ' : '92px ') : ''
      }repeat(${columns.value.length}, minmax(${isWide.value ? 98 : 104}px, 1fr))`,
  )
  /** On a phone only the lanes that say something about the term. */
  const lanes = computed(() =>
    isPhone.value
      ? board.lanes.value.filter(lane =>
          lane.open > 0
          || columns.value.some(term =>
            board.cell(lane.id, term.code).length + board.heldIn(lane.id, term.code).length + board.also(lane.id, term.code).length > 0,
          ),
        )
      : board.lanes.value,
  )
  /** Where something goes without being dragged: the term on the phone's screen, else the working term. */
  const termAtHand = computed(() => isPhone.value ? columns.value[0] : workingTerm.term)
  /** Brings a term onto the phone's screen. */
  const show = (code: string | null | undefined) => {
    if (isPhone.value && code) phoneCode.value = code
  }
  return { isPhone, phoneTerms, phoneAt, columns, showsEarlier, isWide, template, lanes, termAtHand, show }
}
