import { type CasesFile, type CaseResult, type FormatProblem, type ProgramFile, readCases, readProgramText, runCases,
  sayPath } from '@ridgeway/formats'
import { type Program, programId } from '@ridgeway/core/requirements'
import { readProgramFile } from '#shared/contract/views/office'

export type NodePath = (string | number)[]
/** Anything in a program's tree, as the file writes it; while it is being written, parts may be missing. */
export interface TreeNode {
  kind?: string
  id?: string
  title?: string
  hue?: string
  n?: number
  courses?: number
  credits?: number
  minGrade?: string
  subjects?: number
  filter?: { list?: string[], subjects?: string[], levelMin?: number, levelMax?: number, attributes?: string[], except?: string[] }
  children?: TreeNode[]
}
interface Kept { text: string, cases: string | null, seen: number }
type LooseFile = Omit<ProgramFile, 'areas' | 'overlays'> & { areas: TreeNode[], overlays: TreeNode[] }

/** Steps that can be taken back. */
const STEPS = 100

/**
 * A program that is being changed: its text with undo, what is wrong with it, what it means, and its worked cases. It stays on this device
 * until it is put in force or thrown away.
 */
export function useProgramDraft(id: string) {
  const catalog = useCatalogStore()
  const { data, problem, reload } = useView(readProgramFile, () => ({ program: id }))
  const kept = useLocalStorage<Kept | null>(`ridgeway-program-${id}`, null, { serializer: { read: text => JSON.parse(text) as Kept | null,
    write: value => JSON.stringify(value) } })
  const text = computed(() => kept.value?.text ?? data.value?.text ?? '')
  const casesText = computed(() => kept.value ? kept.value.cases : data.value?.cases ?? null)
  const seen = computed(() => kept.value?.seen ?? data.value?.version ?? 0)
  const isChanged = computed(() => data.value !== null && (text.value !== data.value.text || casesText.value !== data.value.cases))
  const past = ref<Kept[]>([])
  const coming = ref<Kept[]>([])

  const now = (): Kept => ({ text: text.value, cases: casesText.value, seen: seen.value })
  function write(change: Partial<Pick<Kept, 'text' | 'cases'>>) {
    if (Object.entries(change).every(([key, value]) => now()[key as 'text' | 'cases'] === value)) return
    past.value = [...past.value, now()].slice(-STEPS)
    coming.value = []
    kept.value = { ...now(), ...change }
  }
  function undo() {
    const before = past.value.pop()
    if (!before) return
    coming.value.push(now())
    kept.value = before
  }
  function redo() {
    const next = coming.value.pop()
    if (!next) return
    past.value.push(now())
    kept.value = next
  }
  /** Back to what is in force; that too can be undone while the page is open. */
  function throwAway() {
    past.value = [...past.value, now()].slice(-STEPS)
    coming.value = []
    kept.value = null
  }
  function clear() {
    past.value = []
    coming.value = []
    kept.value = null
  }

  const file = computed<LooseFile | null>(() => {
    try {
      const read = JSON.parse(text.value) as LooseFile
      return Array.isArray(read.areas) ? { ...read, overlays: read.overlays ?? [] } : null
    }
    catch {
      return null
    }
  })
  const checked = computed(() => text.value === '' || !catalog.ready
    ? null
    : readProgramText(text.value, { courses: catalog.courses, scale: catalog.rules.scale,
        programs: new Set([...catalog.programs.values()].map(program => program.code)) }))
  const program = computed<Program | null>(() => checked.value?.ok ? checked.value.program : null)
  const problems = computed<FormatProblem[]>(() => checked.value && !checked.value.ok ? checked.value.problems : [])
  /** Whether it is still the program that was opened, and not one for another catalog year. */
  const isSame = computed(() => program.value !== null && programId(program.value) === id)

  const at = (root: LooseFile, path: NodePath): TreeNode =>
    path.reduce<unknown>((part, key) => (part as Record<string | number, unknown>)[key], root) as TreeNode
  function edit(change: (root: LooseFile) => void) {
    if (!file.value) return
    const root = JSON.parse(text.value) as LooseFile
    root.overlays ??= []
    change(root)
    write({ text: `${JSON.stringify(root, null, 2)}\n` })
  }
  /** Sets parts of a node; what is empty goes. */
  const set = (path: NodePath, parts: Record<string, unknown>) => edit((root) => {
    const node = (path.length === 0 ? root : at(root, path)) as Record<string, unknown>
    for (const [key, value] of Object.entries(parts)) {
      const isEmpty = value === undefined || value === null || value === '' || (Array.isArray(value) && value.length === 0)
      if (isEmpty) Reflect.deleteProperty(node, key)
      else node[key] = value
    }
  })
  const listOf = (root: LooseFile, path: NodePath) => at(root, path.slice(0, -1)) as unknown as TreeNode[]
  const remove = (path: NodePath) => edit(root => void listOf(root, path).splice(Number(path.at(-1)), 1))
  const move = (path: NodePath, by: number) => edit((root) => {
    const list = listOf(root, path)
    const from = Number(path.at(-1))
    const to = from + by
    if (to < 0 || to >= list.length) return
    const [node] = list.splice(from, 1)
    list.splice(to, 0, node!)
  })
  const usedIds = (root: LooseFile): Set<string> => {
    const ids = (nodes: readonly TreeNode[]): string[] => nodes.flatMap(node => [node.id ?? '', ...ids(node.children ?? [])])
    return new Set([...ids(root.areas), ...ids(root.overlays), ...(root.rules ?? []).map(rule => rule.id)])
  }
  /** Adds a line or a group to a list, such as the children of an area; gives its place. */
  function add(list: NodePath, kind: 'line' | 'group' | 'area'): NodePath {
    let place = 0
    edit((root) => {
      const used = usedIds(root)
      const fresh = (base: string) => {
        for (let n = 1; ; n++) if (!used.has(`${base}-${n}`)) return used.add(`${base}-${n}`) && `${base}-${n}`
      }
      const line = (): TreeNode => ({ kind: 'courses', id: fresh('line'), title: 'New line', filter: {}, courses: 1 })
      const nodes = at(root, list) as unknown as TreeNode[]
      place = nodes.length
      nodes.push(kind === 'line'
        ? line()
        : kind === 'group'
          ? { kind: 'some', id: fresh('group'), title: 'One of these', n: 1, children: [line(), line()] }
          : { id: fresh('area'), title: 'New area', hue: 'moss', children: [line()] })
    })
    return [...list, place]
  }
  const problemsAt = (path: NodePath) => {
    const begins = sayPath(path)
    return problems.value.filter(one => one.path === begins || one.path.startsWith(`${begins}.`))
  }

  const cases = computed<CasesFile | null>(() => {
    if (casesText.value === null) return null
    const read = readCases(casesText.value)
    return read.ok ? read.file : null
  })
  const around = computed(() => program.value && { courses: catalog.courses, terms: catalog.terms, ...catalog.rules,
    programs: [program.value] })
  /** Worked out a moment after the last change. */
  const results = shallowRef<CaseResult[]>([])
  watchDebounced([cases, around], () => {
    if (around.value || !cases.value) results.value = cases.value && around.value ? runCases(cases.value, around.value) : []
  }, { debounce: 300, immediate: true })
  const keepCases = (next: CasesFile['cases']) => write({ cases: next.length === 0
    ? null
    : JSON.stringify({ format: 'ridgeway-cases/1', cases: next }, null, 2) })

  return { data, problem, reload, text, casesText, seen, isChanged, past, coming, undo, redo, throwAway, clear, write, file, program,
    problems, isSame, set, remove, move, add, problemsAt, cases, around, results, keepCases }
}
export type ProgramDraft = ReturnType<typeof useProgramDraft>
