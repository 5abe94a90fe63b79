import { autoScrollForElements, autoScrollWindowForElements } from '@atlaskit/pragmatic-drag-and-drop-auto-scroll/element'
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine'
import { draggable, dropTargetForElements, monitorForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import type { LineReport } from '@ridgeway/core/requirements'
import type { InjectionKey } from 'vue'

/** What is dragged: a tile of the board, or from the tray a course or an open line. */
export type Dragged
  = | { kind: 'tile', id: string }
    | { kind: 'course', code: string }
    | { kind: 'line', program: string, line: Pick<LineReport, 'id' | 'title' | 'open'> }
/** Where it was let go: a term, and a lane of the board unless it was the term as a whole. */
export interface DropPlace {
  term: string
  lane: string | null
}
const DRAGGED = Symbol('dragged')
const PLACE = Symbol('place')

/** Does something while an element is there. */
function whileMounted(element: Readonly<Ref<HTMLElement | null>>, begin: (element: HTMLElement) => () => void) {
  let stop = () => {}
  onMounted(() => {
    if (element.value) stop = begin(element.value)
  })
  onBeforeUnmount(() => stop())
}

/** Makes an element draggable, with the mouse and with a finger, while `movable` holds. */
export function useDrag(element: Readonly<Ref<HTMLElement | null>>, what: () => Dragged, movable: () => boolean) {
  const drop = inject(DROP, () => {})
  whileMounted(element, one => draggable({ element: one, canDrag: movable, getInitialData: () => ({ [DRAGGED]: what() }) }))
  useTouchDrag(element, movable, place => drop(what(), place))
}

/** Makes an element a place to drop; whether something hangs over it. */
export function useDropPlace(element: Readonly<Ref<HTMLElement | null>>, place: () => DropPlace, accepts: () => boolean) {
  const over = ref(false)
  whileMounted(element, one => dropTargetForElements({
    element: one, canDrop: accepts, getData: () => ({ [PLACE]: place() }),
    onDragEnter: () => over.value = true, onDragLeave: () => over.value = false, onDrop: () => over.value = false,
  }))
  return over
}

const DROP: InjectionKey<(what: Dragged, place: DropPlace) => void> = Symbol('drop')

/** Hears of every drop on the page; while something is dragged, the board and the page scroll under it at their edges. */
export function useDrops(board: Readonly<Ref<HTMLElement | null>>, drop: (what: Dragged, place: DropPlace) => void) {
  provide(DROP, drop)
  whileMounted(board, element => combine(
    monitorForElements({ onDrop: ({ source, location }) => {
      const place = location.current.dropTargets[0]?.data[PLACE] as DropPlace | undefined
      const what = (source.data as Record<symbol, unknown>)[DRAGGED] as Dragged | undefined
      if (what && place) drop(what, place)
    } }),
    autoScrollForElements({ element }),
    autoScrollWindowForElements(),
  ))
}
