import type { compileWeeks, Wish } from '@ridgeway/core/weeks'

/**
 * The choice of one option a place as an integer programme. What a date's first and last class and its being used cost is at least what
 * each option costs alone. A wait or a way between two classes is paid where both stand and no other between them: y ≥ a + b − 1 − Σ
 * between. Ways count between classes on site only.
 */
export function programOf(problem: ReturnType<typeof compileWeeks>): string {
  const goal: string[] = []
  const rows: string[] = []
  problem.options.forEach((option, i) => option.own > 0 && goal.push(`${option.own} x${i}`))
  problem.of.forEach(list => rows.push(`${list.map(i => `x${i}`).join(' + ')} = 1`))
  problem.compatible.forEach((row, i) => {
    for (let j = i + 1; j < problem.options.length; j++)
      if (problem.options[i]!.course !== problem.options[j]!.course && !(row[j >>> 5]! & (1 << (j & 31)))) rows.push(`x${i} + x${j} <= 1`)
  })
  const price: Record<string, (wish: Wish, blocks: (typeof problem.patterns)[number][number], follows: string) => number> = {
    'earliest': (wish, blocks) => Math.max(0, (wish as { at: number }).at - blocks[0]!.start),
    'latest': (wish, blocks) => Math.max(0, Math.max(...blocks.map(one => one.end)) - (wish as { at: number }).at),
    'day off': (wish, _, follows) => (wish as { day: string }).day === follows ? 120 : 0,
    'fewer days': (_, blocks) => blocks.some(one => one.onSite) ? 120 : 0,
  }
  problem.wishes.forEach((wish, w) => {
    const of = price[wish.kind]
    if (!of || wish.weight === 'hard') return
    problem.cells.forEach(({ days, follows }, cell) => {
      goal.push(`${days * (wish.weight as number)} z${w}_${cell}`)
      problem.options.forEach((option, i) => {
        for (const { cell: c, pattern } of option.cells) {
          const value = c === cell ? of(wish, problem.patterns[cell]![pattern]!, follows) : 0
          if (value > 0) rows.push(`z${w}_${cell} - ${value} x${i} >= 0`)
        }
      })
    })
  })
  problem.cells.forEach(({ days }, cell) => goal.push(...pairsOf(problem, cell, days, rows)))
  return `Minimize\n obj: ${goal.join(' + ') || '0 x0'}\nSubject To\n ${rows.join('\n ')}\nBinary\n ${
    problem.options.map((_, i) => `x${i}`).join(' ')}\nEnd`
}

type Problem = ReturnType<typeof compileWeeks>
type Block = Problem['patterns'][number][number][number]

/** Terms of the goal for waits and ways between the classes of a cell; their rows are added to `rows`. */
function pairsOf(problem: Problem, cell: number, days: number, rows: string[]): string[] {
  const blocks = new Map<string, { block: Block, options: number[] }>()
  problem.options.forEach((option, i) => {
    for (const { cell: c, pattern } of option.cells) {
      if (c !== cell) continue
      for (const block of problem.patterns[cell]![pattern]!) {
        const key = JSON.stringify(block)
        blocks.set(key, { block, options: [...blocks.get(key)?.options ?? [], i] })
      }
    }
  })
  const all = [...blocks.values()].sort((a, b) => a.block.start - b.block.start)
  const sum = (list: readonly number[], sign: string) => list.map(i => `${sign} x${i}`).join(' ')
  const goal: string[] = []
  const add = (kind: string, price: (a: Block, b: Block) => number, isBetween: (block: Block) => boolean) => all.forEach((a, i) =>
    all.slice(i + 1).forEach((b, j) => {
      const value = price(a.block, b.block)
      if (value <= 0 || a.block.end > b.block.start) return
      const name = `${kind}${cell}_${i}_${i + 1 + j}`
      const between = all.slice(i + 1, i + 1 + j).filter(one => isBetween(one.block) && one.block.start >= a.block.end
        && one.block.end <= b.block.start).flatMap(one => one.options)
      goal.push(`${value} ${name}`)
      rows.push(`${name} ${sum(a.options, '-')} ${sum(b.options, '-')} ${sum(between, '+')} >= -1`)
    }))
  for (const wish of problem.wishes) {
    if (wish.weight === 'hard') continue
    const price = days * wish.weight
    if (wish.kind === 'fewer gaps') add('g', (a, b) => price * Math.max(0, b.start - a.end - wish.pass), () => true)
    if (wish.kind === 'less travel')
      add('t', (a, b) => a.onSite && b.onSite ? price * problem.travel(a.site, b.site) : 0, block => block.onSite)
  }
  return goal
}
