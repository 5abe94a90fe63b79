import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'

/** Makes an element draggable while `movable` holds. */
export function useDraggable(element: Readonly<Ref<HTMLElement | null>>, movable: () => boolean, onStart: () => void) {
  let stop = () => {}
  onMounted(() => {
    if (element.value) stop = draggable({ element: element.value, canDrag: movable, onDragStart: onStart })
  })
  onBeforeUnmount(() => stop())
}
