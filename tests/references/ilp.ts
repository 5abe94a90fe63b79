import highsLoader from 'highs'
import { type AllocationLine, type AllocationTree, hasChoice, type ProgramsPolicy } from '@ridgeway/core/requirements'
import type { Case } from './generate'

type Highs = Awaited<ReturnType<typeof highsLoader>>
let loading: Promise<Highs> | undefined

/** The reference optimiser: HiGHS (Huangfu & Hall 2018, "Parallelizing the dual revised simplex method"), loaded once. */
export const loadHighs = () => loading ??= highsLoader()

/**
 * The same objective as an integer programme, solved one criterion after the other (each earlier optimum becomes a constraint),
 * so that it shares nothing with the folded weights of the product's own search.
 * Gives the optimal value of each: for every program in order (or all in sum) what is open at the end where it contains a choice, open
 * after tier 0, 1, 2, 3 and pins broken; then items used; sum of ranks.
 */
export function solveReference(highs: Highs, problem: Case, criteria = Infinity, policy: ProgramsPolicy = 'in order'): number[] {
  const x = (i: number, l: number) => `x_${i}_${l}`
  const rows: string[] = []
  const binaries: string[] = []
  const openVariables: string[] = []
  const bounds: string[] = []
  problem.items.forEach((item, i) => {
    binaries.push(...item.fits.map(l => x(i, l)))
    rows.push(`${item.fits.map(l => x(i, l)).join(' + ')} <= 1`)
  })
  const kept = new Map<number, string[]>()
  walkTree(problem.tree, [], (line, path) => kept.set(line, path), (choices, n) => {
    binaries.push(...choices)
    rows.push(`${choices.join(' + ')} >= ${n}`)
  })
  problem.lines.forEach((line, l) =>
    [0, 1, 2, 3].forEach((tier) => {
      const using = problem.items.flatMap((item, i) => item.tier <= tier && item.fits.includes(l) ? [{ i, credits: item.credits }] : [])
      const open = `o_${l}_${tier}`
      openVariables.push(open)
      // Where every branch on the path is kept, the line's lack is counted; a branch left out relaxes it.
      const relax = (need: number) => (kept.get(l) ?? []).map(choice => ` - ${need} ${choice}`).join('')
      const depth = (kept.get(l) ?? []).length
      if (line.credits > 0)
        rows.push(
          `${open}${using.map(({ i, credits }) => ` + ${credits} ${x(i, l)}`).join('')}${relax(line.credits)} >= ${
            line.credits * (1 - depth)
          }`,
        )
      if (line.courses > 0)
        rows.push(
          `${open}${using.map(({ i }) => ` + ${line.unit} ${x(i, l)}`).join('')}${relax(line.courses * line.unit)} >= ${
            line.courses * line.unit * (1 - depth)
          }`,
        )
      if (line.spread) {
        const { n, groupOf } = line.spread
        const seen = [...new Set(using.map(({ i }) => groupOf[i]!))]
        const has = (group: number) => `y_${l}_${tier}_${group}`
        // A group is there when one of its items is used: at most 1, and at most the uses.
        for (const group of seen) {
          bounds.push(` 0 <= ${has(group)} <= 1`)
          rows.push(`${has(group)}${using.filter(({ i }) => groupOf[i] === group).map(({ i }) => ` - ${x(i, l)}`).join('')} <= 0`)
        }
        rows.push(
          `${open}${seen.map(group => ` + ${line.unit} ${has(group)}`).join('')}${relax(n * line.unit)} >= ${n * line.unit * (1 - depth)}`,
        )
      }
    }),
  )
  problem.lines.forEach((line, l) =>
    line.caps?.forEach((cap) => {
      const capped = cap.items.filter(i => problem.items[i]!.fits.includes(l))
      if (capped.length > 0)
        rows.push(
          `${capped.map(i => `${cap.courses === undefined ? problem.items[i]!.credits : 1} ${x(i, l)}`).join(' + ')} <= ${
            cap.courses ?? cap.credits
          }`,
        )
    }),
  )
  // A term of two is in use when both are: at least the sum of their uses less one.
  problem.limits.forEach(({ room, terms }, q) => {
    const parts = terms.flatMap(({ of: [a, b], size }, t) => {
      const used = (i: number) => problem.items[i]!.fits.map(l => x(i, l))
      if (b === undefined) return used(a).map(name => `${size} ${name}`)
      const both = `z_${q}_${t}`
      bounds.push(` 0 <= ${both} <= 1`)
      rows.push(`${[...used(a), ...used(b)].join(' + ')} - ${both} <= 1`)
      return [`${size} ${both}`]
    })
    if (parts.length > 0) rows.push(`${parts.join(' + ')} <= ${room}`)
  })
  const uses = problem.items.flatMap((item, i) => item.fits.map(l => ({ name: x(i, l), rank: problem.lines[l]!.rank })))
  const objectives = [
    ...programGroups(problem, policy).flatMap((mine, p) => {
      const pins = problem.items.flatMap((item, i) => item.pinned !== undefined && mine.includes(item.pinned) ? [x(i, item.pinned)] : [])
      return [
        ...tiersCompared(treeOfGroup(problem, p, policy)).map(tier => mine.map(l => `o_${l}_${tier}`).join(' + ')),
        pins.length > 0 ? pins.map(name => `- ${name}`).join(' ') : `0 ${binaries[0]}`,
      ]
    }),
    uses.map(use => use.name).join(' + '),
    uses.map(use => `${use.rank} ${use.name}`).join(' + '),
  ]
  const fixed: string[] = []
  return objectives.slice(0, criteria).map((objective) => {
    const model = `Minimize\n obj: ${objective}\nSubject To\n${[...rows, ...fixed].map((row, r) => ` c${r}: ${row}`).join('\n')}\nBounds\n${
      [...openVariables.map(name => ` 0 <= ${name}`), ...bounds].join('\n')
    }\nBinaries\n ${binaries.join(' ')}\nEnd\n`
    const solution = highs.solve(model, { mip_rel_gap: 0, mip_abs_gap: 0 })
    if (solution.Status !== 'Optimal') throw new Error(`the reference did not solve: ${solution.Status}`)
    const value = Math.round(solution.ObjectiveValue)
    fixed.push(`${objective} <= ${value}`)
    return value
  })
}

/** The lines that one round of criteria is about: those of a program, or all of them. */
export function programGroups({ lines }: Pick<Case, 'lines'>, policy: ProgramsPolicy): number[][] {
  const programs = [...new Set(lines.map(line => line.program ?? 0))].sort((a, b) => a - b)
  const groups = policy === 'in sum' ? [programs] : programs.map(p => [p])
  return groups.map(group => lines.flatMap((line, l) => group.includes(line.program ?? 0) ? [l] : []))
}

/** The tree that one round of criteria is about. */
const treeOfGroup = ({ tree, lines }: Pick<Case, 'tree' | 'lines'>, p: number, policy: ProgramsPolicy): AllocationTree =>
  policy === 'in sum' || !lines.some(line => line.program) ? tree : (tree as { of: AllocationTree[] }).of[p]!

/** The tiers in the order in which they are compared: with a choice, what is open at the end comes first. */
export const tiersCompared = (tree: AllocationTree): number[] => hasChoice(tree) ? [3, 0, 1, 2, 3] : [0, 1, 2, 3]

function walkTree(node: AllocationTree, path: string[], onLine: (line: number, path: string[]) => void,
  onChoice: (choices: string[], n: number) => void, name = 'k') {
  if ('line' in node) return onLine(node.line, path)
  if (node.n === node.of.length) return node.of.forEach((child, c) => walkTree(child, path, onLine, onChoice, `${name}_${c}`))
  const choices = node.of.map((_, c) => `${name}_${c}`)
  onChoice(choices, node.n)
  node.of.forEach((child, c) => walkTree(child, [...path, choices[c]!], onLine, onChoice, `${name}_${c}`))
}

export type { AllocationLine }
