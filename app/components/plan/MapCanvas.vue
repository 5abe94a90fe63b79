<script setup lang="ts">
/** The map itself: courses from left to right, each joined to what it opens. */
const { hueOf, titleOf } = useItems()
const { drawn, isBottleneck, itemOf, stateOf, sayState, lit, isFaint, point, open } = useCourseMap()
const field = useTemplateRef<HTMLElement>('field')
useRoving(field, '.node')
const isLit = (way: { from: string, to: string }) => lit.value !== null && !isFaint(way.from) && !isFaint(way.to)
const placeOf = ({ x, y }: { x: number, y: number }) => ({ left: `${x - NODE.width / 2}px`, top: `${y - NODE.height / 2}px`,
  width: `${NODE.width}px`, height: `${NODE.height}px` })
const said = ({ code, opens }: { code: string, opens: number }) =>
  `${code} ${titleOf(code)}, ${sayState(code)}, opens ${count(opens, 'course')}`
</script>

<template>
  <div ref="field" class="card scroll">
    <div class="canvas" :style="{ width: `${drawn.width}px`, height: `${drawn.height}px` }">
      <svg :width="drawn.width" :height="drawn.height" aria-hidden="true">
        <path
          v-for="way in drawn.edges"
          :key="way.from + way.to"
          :d="way.path"
          class="way"
          :class="{ either: way.either, faint: isFaint(way.from) || isFaint(way.to), lit: isLit(way) }"
        />
      </svg>
      <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a node of the map is a mark of our own -->
      <button
        v-for="node in drawn.nodes"
        :key="node.code"
        class="node mark"
        :class="{ faint: isFaint(node.code), neck: isBottleneck(node) }"
        type="button"
        :style="placeOf(node)"
        :aria-label="said(node)"
        v-bind="point(node.code)"
        @click="open(node.code)"
      >
        <CourseBlock
          :code="node.code"
          :title="titleOf(node.code)"
          :state="stateOf(node.code)"
          :hue="itemOf(node.code) ? hueOf(itemOf(node.code)!) : 'slate'"
          :corner="node.opens ? String(node.opens) : ''"
          :done="0.5"
        />
      </button>
    </div>
  </div>
</template>

<style scoped>
.scroll { overflow: auto; padding: 8px; }
.canvas { position: relative; margin: 0 auto; }
.canvas svg { position: absolute; left: 0; top: 0; }
.node { position: absolute; padding: 0; border: 0; background: none; text-align: left; cursor: pointer; border-radius: 6px; }
.node.neck { box-shadow: 0 0 0 2px color-mix(in srgb, var(--ink) 45%, transparent); }
.way { fill: none; stroke: color-mix(in srgb, var(--second) 70%, transparent); stroke-width: 1.4; }
.way.either { stroke-dasharray: 4 4; }
.way.lit { stroke: var(--act); stroke-width: 2.2; }
.faint { opacity: .22; }
</style>
