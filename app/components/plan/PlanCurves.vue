<script setup lang="ts">
import type { Links } from '@ridgeway/core/planning'

/**
 * Curves from what comes first to the selected tile, and from it to what waits for it; drawn over the board, behind nothing and hindering
 * nothing.
 */
const props = defineProps<{ selected: string | null, links: Links | null, board: HTMLElement | null, redraw: unknown }>()
interface Curve {
  path: string
  kind: 'before' | 'beside' | 'after'
}
const curves = ref<Curve[]>([])

function draw() {
  const board = props.board
  if (!board || !props.selected || !props.links) return curves.value = []
  const origin = board.getBoundingClientRect()
  const boxOf = (id: string) => {
    const tile = board.querySelector<HTMLElement>(`[data-item="${CSS.escape(id)}"]`)
    if (!tile) return null
    const box = tile.getBoundingClientRect()
    return { left: box.left - origin.left + board.scrollLeft, right: box.right - origin.left + board.scrollLeft,
      middle: (box.top + box.bottom) / 2 - origin.top + board.scrollTop }
  }
  const here = boxOf(props.selected)
  if (!here) return curves.value = []
  const join = (fromId: string, toId: string, kind: Curve['kind']): Curve[] => {
    const from = boxOf(fromId)
    const to = boxOf(toId)
    if (!from || !to) return []
    const straight = to.left > from.right
    const [x1, x2] = straight ? [from.right, to.left] : [from.left + 8, to.left + 8]
    const bend = straight ? Math.max(18, (x2 - x1) / 2) : -26
    // Within one row a straight line would run through the tiles between: it goes over them instead.
    const lift = straight && Math.abs(from.middle - to.middle) < 12 && x2 - x1 > 40 ? -34 : 0
    return [{ kind,
      path: `M${x1} ${from.middle} C${x1 + (lift ? 26 : bend)} ${from.middle + lift} ${straight ? x2 - (lift ? 26 : bend) : x2 + bend} ${
        to.middle + lift
      } ${x2} ${to.middle}` }]
  }
  curves.value = [
    ...props.links.before.flatMap(id => join(id, props.selected!, 'before')),
    ...props.links.beside.flatMap(id => join(id, props.selected!, 'beside')),
    ...props.links.after.flatMap(id => join(props.selected!, id, 'after')),
  ]
}
watch(() => [props.selected, props.links, props.redraw, props.board], () => nextTick(draw), { immediate: true })
useResizeObserver(() => props.board, draw)
</script>

<template>
  <svg v-if="curves.length" class="curves" aria-hidden="true">
    <path v-for="(curve, i) in curves" :key="i" :d="curve.path" :class="curve.kind" />
  </svg>
</template>

<style scoped>
/* As large as what is in sight, drawn beyond it: as large as what it measured, it would keep the board as wide as it once was. */
.curves { position: absolute; left: 0; top: 0; width: 100%; height: 100%; overflow: visible; pointer-events: none; z-index: 1; }
path { fill: none; stroke: var(--act); stroke-width: 2; }
.after { stroke-dasharray: 6 4; }
.beside { stroke-dasharray: 1.5 4; stroke-linecap: round; }
</style>
