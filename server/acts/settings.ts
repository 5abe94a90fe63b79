import type { z } from 'zod'
import type { GradeScale } from '@ridgeway/core/grades'
import type { MoneyPolicy } from '@ridgeway/core/money'
import { checkCatalog } from '@ridgeway/core/prerequisites'
import { linesOfProgram, programId } from '@ridgeway/core/requirements'
import type * as contract from '#shared/contract/acts/college'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import type { College } from '../college/college'
import { Refusal } from '../college/refusal'
import { keepSettings, namedOfSettings } from '../db/store/college'

type Input = z.output<typeof contract.setCollege['input']>

/** The office sets the college itself. What stands on records, files and rules cannot be taken away under them. */
export async function setCollege({ tx, college, input, ledger }: Doing<Input>) {
  const named = await namedOfSettings(tx)
  const gradeScale = scaleOf(input, named.grades, college)
  const money = moneyOf(input, named, college)
  const { name, zone, repeatPolicy, termsText, offerHours } = input
  const after = { name, zone, repeatPolicy, termsText, offerHours, gradeScale, money }
  const before = { name: college.name, zone: college.zone, repeatPolicy: college.catalog.repeatPolicy, termsText: college.termsText,
    offerHours: college.offerHours, gradeScale: college.catalog.scale, money: college.money }
  if (!await keepSettings(tx, after, input.seen))
    throw new Refusal(409, 'settings-moved-on', 'The college was changed by somebody else meanwhile.',
      'Here it is as it stands; set yours again.')
  const changed = (Object.keys(after) as (keyof typeof after)[]).filter(key => JSON.stringify(before[key]) !== JSON.stringify(after[key]))
  await ledger('set college', { changed, before: pick(before, changed), after: pick(after, changed) })
  return DONE
}

const pick = <T extends object>(from: T, keys: readonly (keyof T)[]) => Object.fromEntries(keys.map(key => [key, from[key]]))

const refuse = (detail: string, way: string) => new Refusal(422, 'settings-refused', detail, way)
const twice = (list: readonly string[]) => list.find((one, i) => list.indexOf(one) !== i)

function scaleOf({ grades }: Input, onRecord: readonly string[], college: College): GradeScale {
  const doubled = twice(grades.map(one => one.grade))
  if (doubled) throw refuse(`The grade ${doubled} stands there twice.`, 'Write each grade once.')
  const scale: GradeScale = Object.fromEntries(grades.map(({ grade, ...meaning }) => [grade, { ...meaning,
    standsFor: meaning.earns ? meaning.standsFor : -1 }]))
  const gone = onRecord.find(grade => !(grade in scale))
  if (gone) throw refuse(`The grade ${gone} stands on records.`, 'Keep it; say that it earns nothing if it is no longer given.')
  const known = new Set(college.problems.map(one => JSON.stringify(one)))
  const broken = checkCatalog(college.catalog.courses, scale).find(one => one.code === 'unreadable rule' && !known.has(JSON.stringify(one)))
  if (broken?.code === 'unreadable rule')
    throw refuse(`A rule of ${broken.course} asks for a grade that would not be there: ${broken.text}.`, 'Change the rule first.')
  for (const program of college.programs.values()) {
    const asked = [...linesOfProgram(program).flatMap(line => line.minGrade ?? []),
      ...program.rules.flatMap(rule => rule.kind === 'maximum' ? rule.of.gradeAtMost ?? [] : [])]
    const missing = asked.find(grade => !scale[grade]?.earns)
    if (missing)
      throw refuse(`${programId(program)} asks for the grade ${missing}.`, 'Change the program first, or let the grade earn credit.')
  }
  return scale
}

function moneyOf({ money }: Input, named: Awaited<ReturnType<typeof namedOfSettings>>, college: College): MoneyPolicy {
  const { bands, plans, refunds, siteFees } = money
  const doubled = twice(bands.map(one => one.code)) ?? twice(plans.map(one => one.code)) ?? twice(siteFees.map(one => one.site))
  if (doubled) throw refuse(`"${doubled}" stands there twice.`, 'Write each once.')
  const band = named.bands.find(code => !bands.some(one => one.code === code))
  if (band) throw refuse(`Students are in the residence band "${band}".`, 'Keep it, or give those students another band first.')
  const plan = named.plans.find(code => !plans.some(one => one.code === code))
  if (plan) throw refuse(`Students pay by the plan "${plan}".`, 'Keep it; it can stand last.')
  const uneven = plans.find(one => one.parts.reduce((sum, part) => sum + part.percent, 0) !== 100)
  if (uneven) throw refuse(`The parts of "${uneven.name}" do not add up to 100 percent.`, 'Let them.')
  const late = plans.find(one => one.parts.some((part, i) => i > 0 && part.days <= one.parts[i - 1]!.days))
  if (late) throw refuse(`The parts of "${late.name}" are not in order.`, 'Let each be due later than the one before.')
  if (refunds.some((step, i) => i > 0 && (step.share <= refunds[i - 1]!.share || step.percent > refunds[i - 1]!.percent)))
    throw refuse('What comes back does not become less as the term goes by.',
      'Write the steps in order, each with less than the one before.')
  const site = siteFees.find(one => !college.sites.some(known => known.code === one.site))
  if (site) throw refuse(`There is no site "${site.site}".`, 'Bring it in with sites.csv first.')
  return { ...money, siteFees: Object.fromEntries(siteFees.filter(one => one.cents > 0).map(one => [one.site, one.cents])) }
}
