<script setup lang="ts">
import { graphlib, layout } from '@dagrejs/dagre'
import type { CourseItem } from '@ridgeway/core/catalog'
import { prerequisiteMap } from '@ridgeway/core/planning'
import { programId } from '@ridgeway/core/requirements'

/** What opens what in a program: where the student stands, and which courses much else waits for. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { hueOf, titleOf } = useItems()
const programs = computed(() => student.rules.programs)
const chosen = ref(programs.value[0] ? programId(programs.value[0]) : '')
const program = computed(() => programs.value.find(one => programId(one) === chosen.value) ?? programs.value[0])
const pointed = ref<string | null>(null)

const items = computed(() => student.standing?.items ?? [])
const itemOf = (code: string): CourseItem | undefined =>
  items.value.find(item => item.course === code) ?? items.value.find(item => catalog.courses.get(code)?.equivalents.includes(item.course))
const map = computed(() => program.value ? prerequisiteMap(program.value, catalog.courses, items.value) : { courses: [], ways: [] })
/** Courses that neither open anything nor wait for anything are listed, not drawn. */
const tied = computed(() => new Set(map.value.ways.flatMap(way => [way.from, way.to])))
const alone = computed(() => map.value.courses.filter(course => !tied.value.has(course.code)))
const WIDTH = 104
const HEIGHT = 40
const drawn = computed(() => {
  const graph = new graphlib.Graph()
  graph.setGraph({ rankdir: 'LR', nodesep: 9, ranksep: 46, marginx: 6, marginy: 6 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const { code } of map.value.courses) if (tied.value.has(code)) graph.setNode(code, { width: WIDTH, height: HEIGHT })
  for (const { from, to } of map.value.ways) graph.setEdge(from, to)
  layout(graph)
  const { width = 0, height = 0 } = graph.graph() as { width?: number, height?: number }
  return {
    width,
    height,
    nodes: map.value.courses.filter(course => tied.value.has(course.code)).map(course => ({ ...course,
      ...graph.node(course.code) as { x: number, y: number } }),
    ),
    edges: map.value.ways.map(way => ({ ...way,
      path: curve((graph.edge(way.from, way.to) as { points: { x: number, y: number }[] }).points) }),
    ),
  }
})
function curve(points: readonly { x: number, y: number }[]): string {
  const [first, ...rest] = points
  return `M${first!.x} ${first!.y} ${
    rest.map((point, i) => {
      const before = points[i]!
      const middle = (before.x + point.x) / 2
      return `C${middle} ${before.y} ${middle} ${point.y} ${point.x} ${point.y}`
    }).join(' ')
  }`
}
/** A course is a bottleneck when at least three courses wait for it and it is not passed. */
const bottlenecks = computed(() =>
  [...map.value.courses].filter(course => course.opens >= 3 && stateOf(course.code) !== 'completed').sort((a, b) =>
    b.opens - a.opens || b.depth - a.depth,
  ).slice(0, 8),
)
const stateOf = (code: string) => itemOf(code)?.state ?? 'open'
const sayState = (code: string) => {
  const item = itemOf(code)
  if (!item) return 'not in the plan'
  return item.grade
    ? `${item.state}, ${item.grade}`
    : item.term && item.state !== 'completed'
      ? `${item.state} for ${catalog.term(item.term)?.name}`
      : item.state
}
/** Everything on a way to or from the course that is pointed at. */
const lit = computed(() => {
  if (!pointed.value) return null
  const follow = (start: string, pick: (way: { from: string, to: string }) => [string, string]) => {
    const seen = new Set([start])
    for (const code of seen) for (const way of map.value.ways) if (pick(way)[0] === code) seen.add(pick(way)[1])
    return seen
  }
  return new Set([...follow(pointed.value, way => [way.from, way.to]), ...follow(pointed.value, way => [way.to, way.from])])
})
const faint = (code: string) => lit.value !== null && !lit.value.has(code)
function open(code: string) {
  const item = items.value.find(one => one.course === code && one.state !== 'completed')
  if (item) void navigateTo({ path: `/student/${student.state!.id}/plan`, query: { about: item.id } })
}
const field = useTemplateRef<HTMLElement>('field')
useRoving(field, '.node')
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Prerequisite map</h1>
      <v-select
        v-model="chosen"
        class="program"
        :items="programs.map(one => ({ value: programId(one), title: `${one.title} · ${one.catalogYear}` }))"
        label="Program"
        density="compact"
        hide-details
        variant="outlined"
        bg-color="surface"
      />
      <span class="second small key"
        ><svg width="30" height="8" aria-hidden="true"><path d="M0 4H30" class="way" /></svg> must come first
        <svg width="30" height="8" aria-hidden="true"><path d="M0 4H30" class="way either" /></svg> one of several</span
      >
      <span class="spacer" />
      <WordLink :to="`/student/${student.state!.id}/plan`">Back to the plan</WordLink>
    </div>
    <section class="card necks" aria-label="Bottlenecks">
      <b>Much waits for</b>
      <ActButton
        v-for="course in bottlenecks"
        :key="course.code"
        class="neck"
        @mouseenter="pointed = course.code"
        @mouseleave="pointed = null"
        @focus="pointed = course.code"
        @blur="pointed = null"
        @click="open(course.code)"
      >
        <b>{{ course.code }}</b> <span>{{ count(course.opens, 'course') }}</span> <span
          class="second small">{{ sayState(course.code) }}</span>
      </ActButton>
      <span v-if="!bottlenecks.length" class="second">nothing that is not passed holds up three or more others.</span>
    </section>
    <div ref="field" class="card scroll">
      <div class="canvas" :style="{ width: `${drawn.width}px`, height: `${drawn.height}px` }">
        <svg :width="drawn.width" :height="drawn.height" aria-hidden="true">
          <path
            v-for="way in drawn.edges"
            :key="way.from + way.to"
            :d="way.path"
            class="way"
            :class="{ either: way.either, faint: faint(way.from) || faint(way.to), lit: lit && !faint(way.from) && !faint(way.to) }"
          />
        </svg>
        <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a node of the map is a mark of our own -->
        <button
          v-for="node in drawn.nodes"
          :key="node.code"
          class="node mark"
          :class="{ faint: faint(node.code), neck: node.opens >= 3 && stateOf(node.code) !== 'completed' }"
          type="button"
          :style="{ left: `${node.x - WIDTH / 2}px`, top: `${node.y - HEIGHT / 2}px`, width: `${WIDTH}px`, height: `${HEIGHT}px` }"
          :aria-label="`${node.code} ${titleOf(node.code)}, ${sayState(node.code)}, opens ${count(node.opens, 'course')}`"
          @mouseenter="pointed = node.code"
          @mouseleave="pointed = null"
          @focus="pointed = node.code"
          @blur="pointed = null"
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
    <p class="second small">
      The number in a corner is how many courses of the map wait for it.
      {{ alone.length ? `Open to anybody, and opening nothing: ${alone.map(course => course.code).join(', ')}.` : '' }}
    </p>
    <SameAsTable class="card table" title="The map as a table">
        <thead>
          <tr>
            <th>Course</th>
            <th>Where you stand</th>
            <th>Needs first</th>
            <th>Opens</th>
            <th>Waiting in all</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="course in map.courses" :key="course.code">
            <td>{{ course.code }} {{ titleOf(course.code) }}</td>
            <td>{{ sayState(course.code) }}</td>
            <td>{{ catalog.courses.get(course.code)?.prerequisite || 'nothing' }}</td>
            <td>
              {{
                map.ways
                  .filter(way => way.from === course.code)
                  .map(way => way.to)
                  .join(', ')
              }}
            </td>
            <td>{{ course.opens }}</td>
          </tr>
        </tbody>
      </SameAsTable>
  </div>
</template>

<style scoped>
.program { width: 300px; flex: none; }
.key { display: inline-flex; gap: 6px; align-items: center; }
.necks { padding: 8px 14px; display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; margin-bottom: 8px; }
.necks .neck { border: 1px solid var(--line); background: var(--paper); color: var(--ink); padding: 2px 9px; font-weight: 400; }
.scroll { overflow: auto; padding: 8px; }
.canvas { position: relative; margin: 0 auto; }
.canvas svg { position: absolute; left: 0; top: 0; }
.node { position: absolute; padding: 0; border: 0; background: none; text-align: left; cursor: pointer; border-radius: 6px; }
.node.neck { box-shadow: 0 0 0 2px color-mix(in srgb, var(--ink) 45%, transparent); }
.way { fill: none; stroke: color-mix(in srgb, var(--second) 70%, transparent); stroke-width: 1.4; }
.way.either { stroke-dasharray: 4 4; }
.way.lit { stroke: var(--act); stroke-width: 2.2; }
.faint { opacity: .22; }
.table { padding: 8px 14px; margin-top: 8px; }
td, th { padding: 3px 10px 3px 0; border-top: 1px solid var(--line-soft); vertical-align: top; }
</style>
