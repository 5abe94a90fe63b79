import { graphlib, layout } from '@dagrejs/dagre'
import type { CourseItem } from '@ridgeway/core/catalog'
import { prerequisiteMap } from '@ridgeway/core/planning'
import { programId } from '@ridgeway/core/requirements'
import type { InjectionKey } from 'vue'

interface Point { x: number, y: number }
/** The size of a course on the map, in pixels. */
export const NODE = { width: 104, height: 40 }
export type CourseMap = ReturnType<typeof createCourseMap>
const MAP: InjectionKey<CourseMap> = Symbol('prerequisite map')

/** What opens what in a program: where the student stands, and which courses much else waits for. */
export function provideCourseMap(): CourseMap {
  const map = createCourseMap()
  provide(MAP, map)
  return map
}
export const useCourseMap = (): CourseMap => inject(MAP)!

function createCourseMap() {
  const student = useStudentStore()
  const catalog = useCatalogStore()
  const programs = computed(() => student.rules.programs)
  const chosen = ref(programs.value[0] ? programId(programs.value[0]) : '')
  const program = computed(() => programs.value.find(one => programId(one) === chosen.value) ?? programs.value[0])
  const pointed = ref<string | null>(null)

  const items = computed(() => student.standing?.items ?? [])
  const itemOf = (code: string): CourseItem | undefined =>
    items.value.find(item => item.course === code)
    ?? items.value.find(item => catalog.courses.get(code)?.equivalents.includes(item.course))
  const map = computed(() => program.value ? prerequisiteMap(program.value, catalog.courses, items.value) : { courses: [], ways: [] })
  /** Courses that neither open anything nor wait for anything are listed, not drawn. */
  const tied = computed(() => new Set(map.value.ways.flatMap(way => [way.from, way.to])))
  const alone = computed(() => map.value.courses.filter(course => !tied.value.has(course.code)))
  const drawn = computed(() => {
    const courses = map.value.courses.filter(course => tied.value.has(course.code))
    const graph = new graphlib.Graph()
    graph.setGraph({ rankdir: 'LR', nodesep: 9, ranksep: 46, marginx: 6, marginy: 6 })
    graph.setDefaultEdgeLabel(() => ({}))
    for (const { code } of courses) graph.setNode(code, { ...NODE })
    for (const { from, to } of map.value.ways) graph.setEdge(from, to)
    layout(graph)
    const { width = 0, height = 0 } = graph.graph() as { width?: number, height?: number }
    return {
      width,
      height,
      nodes: courses.map(course => ({ ...course, ...graph.node(course.code) as Point })),
      edges: map.value.ways.map(way => ({ ...way, path: curve((graph.edge(way.from, way.to) as { points: Point[] }).points) })),
    }
  })
  const stateOf = (code: string) => itemOf(code)?.state ?? 'open'
  /** A course is a bottleneck when at least three courses wait for it and it is not passed. */
  const isBottleneck = ({ code, opens }: { code: string, opens: number }) => opens >= 3 && stateOf(code) !== 'completed'
  const bottlenecks = computed(() =>
    map.value.courses.filter(isBottleneck).sort((a, b) => b.opens - a.opens || b.depth - a.depth).slice(0, 8),
  )
  function sayState(code: string): string {
    const item = itemOf(code)
    if (!item) return 'not in the plan'
    if (item.grade) return `${item.state}, ${item.grade}`
    return item.term && item.state !== 'completed' ? `${item.state} for ${catalog.term(item.term)?.name}` : item.state
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
  const isFaint = (code: string) => lit.value !== null && !lit.value.has(code)
  /** The tile of a course on the board, when it has one. */
  function open(code: string) {
    const item = items.value.find(one => one.course === code && one.state !== 'completed')
    if (item) void navigateTo({ path: `/student/${student.state!.id}/plan`, query: { open: `tile:${item.id}` } })
  }
  const point = (code: string) => ({ onMouseenter: () => pointed.value = code, onMouseleave: () => pointed.value = null,
    onFocus: () => pointed.value = code, onBlur: () => pointed.value = null })
  return { programs, chosen, map, alone, drawn, bottlenecks, isBottleneck, itemOf, stateOf, sayState, lit, isFaint, point, open }
}

function curve(points: readonly Point[]): string {
  const [first, ...rest] = points
  return `M${first!.x} ${first!.y} ${
    rest.map((point, i) => {
      const before = points[i]!
      const middle = (before.x + point.x) / 2
      return `C${middle} ${before.y} ${middle} ${point.y} ${point.x} ${point.y}`
    }).join(' ')
  }`
}
