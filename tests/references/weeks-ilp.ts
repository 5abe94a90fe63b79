import type { compileWeeks, Wish } from '@ridgeway/core/weeks'

/** The choice of one option a course as an integer programme; a cell's price is at least that of each option in it alone. */
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
  return `Minimize\n obj: ${goal.join(' + ') || '0 x0'}\nSubject To\n ${rows.join('\n ')}\nBinary\n ${
    problem.options.map((_, i) => `x${i}`).join(' ')}\nEnd`
}
