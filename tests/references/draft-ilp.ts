import { isOffered } from '@ridgeway/core/catalog'
import { AHEAD, type DraftCase } from './generate-draft'
import type { loadHighs } from './ilp'

type Highs = Awaited<ReturnType<typeof loadHighs>>

/**
 * Choosing and placing courses as one integer programme: which courses, in which terms, so that the last of them comes earliest.
 * Written from the rules alone (lines, prerequisites, offerings, caps, pins); it shares nothing with the product's own drafting.
 * Gives the position of the earliest possible last term, -1 when nothing needs to be placed, null when there is no way at all.
 */
export function earliestByProgramme(highs: Highs, { file, catalog, wishes, asked, lines }: DraftCase): number | null {
  const x = (code: string, t: number) => `x_${code.slice(4)}_${t}`
  const codes = [...catalog.courses.keys()]
  const held = file.entries.filter(entry => entry.pinned)
  const slots = new Map(codes.map((code) => {
    const { offered } = catalog.courses.get(code)!
    const summerOnly = offered.seasons.every(season => season === 'summer')
    const pinned = held.find(entry => entry.course === code)
    return [code, AHEAD.flatMap((term, t) => {
      if (pinned) return pinned.term === term.code ? [t] : []
      if (wishes.termsOff.includes(term.code) || !isOffered({ offered }, term)) return []
      return term.season === 'summer' && wishes.summers === 'when needed' && !summerOnly ? [] : [t]
    })]
  }))
  const all = (code: string, until = Infinity) => slots.get(code)!.filter(t => t <= until).map(t => x(code, t))
  const rows: string[] = []
  const binaries = new Set<string>()
  for (const code of codes) all(code).forEach(name => binaries.add(name))
  for (const code of codes) {
    const taken = all(code)
    const inPlan = file.entries.some(entry => entry.course === code)
    if (taken.length === 0) {
      if (inPlan) return null
      continue
    }
    rows.push(`${taken.join(' + ')} ${inPlan ? '=' : '<='} 1`)
    rows.push(`finish${slots.get(code)!.map(t => ` - ${t + 1} ${x(code, t)}`).join('')} >= 0`)
    for (const { of, alongside } of asked.get(code)!) {
      for (const t of slots.get(code)!) {
        const before = of.flatMap(other => all(other, alongside ? t : t - 1))
        rows.push(`${x(code, t)}${before.map(name => ` - ${name}`).join('')} <= 0`)
      }
    }
  }
  lines.forEach(({ list, n }, l) => {
    const uses = list.map(code => `y_${code.slice(4)}_${l}`)
    uses.forEach(name => binaries.add(name))
    rows.push(`${uses.join(' + ')} >= ${n}`)
    list.forEach((code, i) => rows.push(`${uses[i]}${all(code).map(name => ` - ${name}`).join('')} <= 0`))
  })
  for (const code of codes) {
    const uses = lines.flatMap(({ list }, l) => list.includes(code) ? [`y_${code.slice(4)}_${l}`] : [])
    if (uses.length > 1) rows.push(`${uses.join(' + ')} <= 1`)
  }
  AHEAD.forEach((term, t) => {
    const stays = held.filter(entry => entry.term === term.code).reduce((sum, entry) => sum + entry.credits, 0)
    const limit = wishes.termsOff.includes(term.code) ? stays : Math.min(term.loadCap, Math.max(wishes.load ?? term.loadCap, stays))
    const here = codes.filter(code => slots.get(code)!.includes(t))
    if (here.length > 0) rows.push(`${here.map(code => `${catalog.courses.get(code)!.credits} ${x(code, t)}`).join(' + ')} <= ${limit}`)
  })
  const model = `Minimize\n obj: finish\nSubject To\n${
    rows.map((row, i) => ` r${i}: ${row}`).join('\n')
  }\nBounds\n 0 <= finish <= ${AHEAD.length}\nBinary\n ${[...binaries].join('\n ')}\nEnd\n`
  const solved = highs.solve(model, { mip_rel_gap: 0 })
  if (solved.Status === 'Infeasible') return null
  if (solved.Status !== 'Optimal') throw new Error(`the reference says ${solved.Status}`)
  return Math.round(solved.ObjectiveValue) - 1
}
