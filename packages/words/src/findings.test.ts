import { describe, expect, it } from 'vitest'
import type { Term } from '@ridgeway/core/catalog'
import type { MoveName, PlanCheck } from '@ridgeway/core/planning'
import { checkCatalog } from '@ridgeway/core/prerequisites'
import type { Finding, Gate } from '@ridgeway/core/registration'
import type { RuleReport, UseChange, Why } from '@ridgeway/core/requirements'
import { course, courseMap } from '../../../tests/builders'
import { sayCatalogProblem } from './catalog'
import { sayCheck, sayMove } from './checks'
import { sayBecause, sayNeeds } from './conditions'
import { sayDraftReason } from './drafts'
import { describeFilter } from './filters'
import { sayGate } from './gates'
import { sayBrokenPin, sayLacking, saySharedRule, sayUseChange } from './lines'
import { sayCandidate, sayWhy } from './reach'
import { sayFinding, sayShortly } from './registration'
import { ruleTitle, sayOutOfReach, sayRule } from './rules'
import { sayStep } from './steps'
import { termName } from './terms'

const spring = { code: '2027SP', name: 'Spring 2027' }
const place = { id: 'x', severity: 'blocker' as const, itemId: 'i', course: 'AAA 200', term: '2027SP' }
const named = (code: string) => ({ kind: 'course' as const, course: code, alongside: false })
const total: RuleReport = { id: 'total', title: '', state: 'open', reading: { kind: 'total', done: 3000, asked: 12_000, withPlan: 4500 } }

describe('sayCheck', () => {
  it.each<[PlanCheck, string]>([
    [{ ...place, kind: 'term over', in: spring }, 'Spring 2027 has begun; AAA 200 was not taken.'],
    [{ ...place, kind: 'not offered', in: spring, offered: { seasons: ['fall'], years: 'odd' } },
      'AAA 200 is not offered in Spring 2027: fall, odd years only.'],
    [{ ...place, kind: 'offering not announced', in: spring },
      'Nobody has said yet in which terms AAA 200 is given; Spring 2027 may not be one of them.'],
    [{ ...place, kind: 'prerequisite', in: spring, needs: [[{ condition: named('AAA 100'), held: null }]] },
      'AAA 200 is too early in Spring 2027: it needs AAA 100 first, which is not in the plan.'],
    [{ ...place, kind: 'corequisite', needs: [[{ condition: named('AAA 201'), held: { state: 'planned', term: '2027FA', grade: null } }]] },
      'AAA 200 goes with AAA 201, which is planned for Fall 2027, in the same term or before.'],
    [{ ...place, kind: 'already passed', by: 'AAA 200', state: 'completed', grade: 'B', times: 1 },
      'AAA 200 is passed with B; it gives credit once.'],
    [{ ...place, kind: 'repeat limit', by: 'AAA 200', state: 'planned', grade: null, times: 3 },
      'AAA 200 is planned in another term; it gives credit 3 times.'],
    [{ ...place, kind: 'excluded', by: 'BBB 100', state: 'completed' }, 'No credit for both AAA 200 and BBB 100, which is completed.'],
    [{ ...place, kind: 'over the cap', in: spring, credits: 1950, cap: 1800 },
      'Spring 2027 has 19.5 credits, the cap is 18. Move a course, or ask your advisor for a load exception.'],
    [{ ...place, kind: 'under the wish', in: spring, credits: 600, wish: 1200 },
      'Spring 2027 has 6 credits, fewer than the 12 you wish for in a term.'],
    [{ ...place, kind: 'term off', in: spring }, 'AAA 200 stands in Spring 2027, a term you want off.'],
    [{ ...place, kind: 'past the wished finish', in: spring, finish: '2026FA' },
      'AAA 200 stands in Spring 2027; you want to finish by Fall 2026.'],
    [{ ...place, kind: 'differs from sign-off', in: spring, gone: ['AAA 100'], added: ['BBB 100'] },
      'Spring 2027 is no longer what was signed off: AAA 100 is gone, BBB 100 is new.'],
    [{ ...place, kind: 'differs from registration', in: spring }, 'AAA 200 is planned for Spring 2027, and you registered without it.'],
    [{ ...place, kind: 'to choose', in: spring, over: false }, 'The sections of Spring 2027 are known: choose a course for this place.'],
    [{ ...place, kind: 'to choose', in: spring, over: true }, 'Spring 2027 has begun; no course was chosen for this place.'],
    [{ ...place, kind: 'counts for nothing' }, 'AAA 200 counts for nothing yet: no requirement line has room for it.'],
    [{ ...place, kind: 'not reached', program: 'P', lacks: { open: 600 } }, 'P: 6 credits have no place in the plan yet.'],
    [{ ...place, kind: 'not reached', program: 'P', lacks: { overlay: 'Field', open: 300 } },
      'P, Field: nothing in the plan carries it yet, 3 credits are open.'],
    [{ ...place, kind: 'not reached', program: 'P', lacks: { rule: total, held: 300 } },
      'P, 120 credits in all: 30 of 120 cr earned, 45 with all that is under way and planned and 3 more with the places held.'],
    [{ ...place, kind: 'gpa', program: 'P',
      rule: { id: 'g', title: 'Overall', state: 'open',
        reading: { kind: 'gpa', now: 190, asked: 200, outlook: { code: 'needs average', average: 250, credits: 600 } } } },
    'P, Overall: 1.90 now, 2.00 asked; an average of 2.50 over the next 6 cr gets there.'],
  ])('%#: says it in one sentence', (check, words) => expect(sayCheck(check)).toBe(words))
})

describe('sayFinding', () => {
  const clash = { date: '2027-01-13', kind: 'overlap' as const, shortBy: 0 }
  const seats = { capacity: 5, taken: 5, held: 0, waiting: 2, kept: { seats: 0, for: [] } }
  const REFUSALS: [Finding, string][] = [
    [{ code: 'session-closed', ok: false, course: 'AAA 200', label: '02', by: '2027-01-20' },
      'AAA 200-02 could be added until 20 Jan 2027.'],
    [{ code: 'not-signed', ok: false, course: 'AAA 200', by: 'Hollis', term: spring },
      'AAA 200 is not among what Hollis signed off for Spring 2027.'],
    [{ code: 'waitlist-full', ok: false, course: 'AAA 200', label: '01', waiting: 8 },
      'The waitlist of AAA 200-01 is full too: 8 wait.'],
    [{ code: 'waiting-already', ok: false, course: 'AAA 200', label: '01' }, 'You are on the waitlist of AAA 200-01 already.'],
    [{ code: 'already-passed', ok: false, course: 'AAA 200', by: 'AAA 210', grade: 'B', times: 1 },
      'AAA 200 gives the same credit as AAA 210, which is passed with B.'],
    [{ code: 'exclusion', ok: false, course: 'AAA 200', by: 'BBB 100', state: 'completed' },
      'No credit for both AAA 200 and BBB 100, which is completed.'],
    [{ code: 'section-unknown', ok: false, course: 'AAA 200', term: spring }, 'A section chosen for AAA 200 is not in Spring 2027.'],
    [{ code: 'section-cancelled', ok: false, course: 'AAA 200', label: '02' }, 'AAA 200-02 is cancelled.'],
    [{ code: 'bundle-incomplete', ok: false, course: 'AAA 200', missing: ['lecture', 'lab'] },
      'The choice for AAA 200 lacks its lecture and lab.'],
    [{ code: 'bundle-incomplete', ok: false, course: 'AAA 200', missing: [] },
      'The choice for AAA 200 has parts that do not belong together.'],
    [{ code: 'duplicate', ok: false, course: 'AAA 200', by: 'AAA 200', state: 'registered', term: spring },
      'AAA 200 is registered in Spring 2027 already.'],
    [{ code: 'duplicate', ok: false, course: 'AAA 200', by: 'AAA 210', state: 'in the line-up', term: spring },
      'AAA 200 gives the same credit as AAA 210, which is in this line-up already.'],
    [{ code: 'taken-elsewhere', ok: false, course: 'AAA 200', by: 'AAA 200', state: 'under way', term: { code: '2026FA', name: '' },
      times: 1 }, 'AAA 200 is under way in Fall 2026; it gives credit once.'],
    [{ code: 'taken-elsewhere', ok: false, course: 'AAA 200', by: 'AAA 210', state: 'registered', term: null, times: 1 },
      'AAA 200 gives the same credit as AAA 210, which is registered.'],
    [{ code: 'already-passed', ok: false, course: 'AAA 200', by: 'AAA 200', grade: 'B', times: 1 },
      'AAA 200 is passed with B; it gives credit once.'],
    [{ code: 'same-topic', ok: false, course: 'AAA 290', label: '02', topic: 'Rivers in song', state: 'completed',
      term: { code: '2026SP', name: '' } },
    '"Rivers in song" gives credit once, and AAA 290 with it is passed already, Spring 2026.'],
    [{ code: 'exclusion', ok: false, course: 'AAA 200', by: 'BBB 100', state: 'in the line-up' },
      'No credit for both AAA 200 and BBB 100, which is in this line-up.'],
    [{ code: 'prerequisite', ok: false, needs: [[{ condition: named('AAA 100'), held: null }]],
      first: { course: 'AAA 100', offered: { seasons: ['fall'] } } }, 'Needs AAA 100, which is not on your record.'],
    [{ code: 'corequisite', ok: false, needs: [[{ condition: named('AAA 201'), held: null }]] },
      'Goes with AAA 201, which is not on your record, in the same term or before.'],
    [{ code: 'partner-refused', ok: false, course: 'AAA 200', partner: 'AAA 201',
      because: [{ code: 'seats-full', ok: false, course: 'AAA 201', label: '01', seats, other: null }] },
    'Goes with AAA 201, which is refused: AAA 201-01 is full: 5 of 5 seats taken, 2 waiting.'],
    [{ code: 'restriction', ok: false, course: 'AAA 200', label: '01', groups: ['WSC-BS'] }, 'AAA 200-01 is kept for WSC-BS students.'],
    [{ code: 'clash', ok: false, course: 'BBB 100', label: '01', state: 'registered', clash },
      'Clashes with BBB 100-01 (registered), first on 13 Jan 2027.'],
    [{ code: 'clash', ok: false, course: 'BBB 100', label: '01', state: 'in the line-up',
      clash: { ...clash, kind: 'travel', shortBy: 10 } },
    'Too little time from BBB 100-01 (in this line-up): 10 min short on 13 Jan 2027.'],
    [{ code: 'own-clash', ok: false, course: 'AAA 200', parts: ['lecture', 'lab'], clash },
      'The lecture and the lab of AAA 200 clash with each other, first on 13 Jan 2027.'],
    [{ code: 'load-cap', ok: false, credits: 2000, cap: 1800, partners: ['AAA 201'] },
      '20 credits, with AAA 201 that it goes with, would be over the cap of 18.'],
    [{ code: 'seats-full', ok: false, course: 'AAA 200', label: '01', seats: { ...seats, held: 2 },
      other: { label: '02', meets: { days: ['M', 'W'], start: 570 }, left: 3 } },
    'AAA 200-01 is full: 5 of 5 seats taken, 2 held by offers, 2 waiting.'],
    [{ code: 'seats-full', ok: false, course: 'AAA 200', label: '01', other: null,
      seats: { capacity: 5, taken: 3, held: 1, waiting: 0, kept: { seats: 1, for: ['seniors', 'WSC-BS'] } } },
    'AAA 200-01 is full: 3 of 5 seats taken, 1 held by an offer, 1 kept for seniors or WSC-BS.'],
  ]
  it.each(REFUSALS)('%#: says why, and what to do', (finding, words) => {
    expect(sayFinding(finding).words).toBe(words)
    expect(sayFinding(finding).way).toMatch(/\.$/)
  })
  it.each(REFUSALS)('%#: is said in a row as well, in no more words than that', (finding, words) => {
    const shortly = sayShortly(finding)
    expect(shortly.length).toBeGreaterThan(3)
    expect(shortly.length).toBeLessThanOrEqual(words.length)
    expect(shortly).not.toMatch(/undefined|null/)
  })
  it('is said in a few words that name what is in the way', () => {
    const shortly = REFUSALS.map(([finding]) => sayShortly(finding))
    expect(shortly).toEqual(expect.arrayContaining(['passed already with B', 'under way already', 'a topic you have had',
      'no credit beside BBB 100', 'needs AAA 100, which is not on your record', 'goes with AAA 201, which is not on your record',
      'only for WSC-BS', 'clashes with BBB 100-01', '10 min too short from BBB 100-01', 'its parts clash with each other',
      'over the cap of 18 credits', 'full', 'full for you: 1 kept for others']))
  })
  it.each<[Finding, string]>([
    [{ code: 'prerequisite', ok: true, reason: null }, 'Prerequisite lifted by an exception.'],
    [{ code: 'load-cap', ok: true, credits: 900, cap: 1800, partners: [] }, '9 of at most 18 credits.'],
    [{ code: 'seats-full', ok: true, left: 1 }, '1 seat left.'],
  ])('%#: says what is in order, without a way', (finding, words) => expect(sayFinding(finding)).toEqual({ words, way: '' }))
})

describe('sayGate', () => {
  const base = { term: spring, open: false }
  it.each<[Gate, string, string]>([
    [{ ...base, kind: 'opening', from: null, zone: 'America/Denver', who: '' }, 'No opening is set for Spring 2027.',
      'The registrar\'s office sets openings; ask there.'],
    [{ ...base, kind: 'opening', from: '2026-11-09T15:00:00.000Z', zone: 'America/Denver', who: '24 to 59 credits' },
      'opens Mon 9 Nov, 08:00', 'Registration for Spring 2027 opens for you on Mon 9 Nov, 08:00 (24 to 59 credits).'],
    [{ ...base, kind: 'sign-off', signed: null, asked: true, advisor: 'Hollis' }, 'asked, not yet given by Hollis',
      'Hollis has your request. If it is urgent ask them for a release code.'],
    [{ ...base, kind: 'sign-off', signed: null, asked: false, advisor: null }, 'not asked for', 'Ask an advisor to sign off Spring 2027.'],
    [{ ...base, kind: 'holds', holds: [{ reason: 'Library', contact: 'the desk', placed: '' }] }, 'Library',
      'Contact the desk to clear it.'],
    [{ ...base, kind: 'program', program: '' }, 'no program, not confirmed', 'Confirm your program and catalog year under Now.'],
    [{ ...base, kind: 'terms', accepted: null }, 'not accepted', 'Read and accept the terms of registration for Spring 2027.'],
  ])('%#: says how it stands and what to do', (gate, words, way) => expect(sayGate(gate)).toMatchObject({ words, way }))
  it('says nothing to do about an open one', () => {
    expect(sayGate({ ...base, open: true, kind: 'opening', from: '2026-11-09T15:00:00.000Z', zone: 'America/Denver', who: '' })).toEqual({
      title: 'Opening',
      words: 'open since Mon 9 Nov, 08:00',
      way: '',
    })
    expect(sayGate({ ...base, open: true, kind: 'terms', accepted: '2026-11-01' }).words).toBe('accepted 1 Nov 2026')
  })
})

describe('sayStep', () => {
  const common = { id: 's', place: 'now' as const, about: 'x', blocking: true }
  it('says what to do and why', () => {
    expect(sayStep({ ...common, code: 'seat offer', course: 'AAA 200', label: '02', hoursLeft: 31 }).title).toBe(
      'A seat in AAA 200-02 is held for you',
    )
    expect(sayStep({ ...common, code: 'ask sign-off', advisor: null, term: spring }).title).toBe('Ask an advisor to sign off Spring 2027')
    const clash = { kind: 'overlap', date: '2027-01-19' } as Extract<Finding, { code: 'clash' }>['clash']
    expect(sayStep({ ...common, code: 'refused', course: 'AAA 200',
      finding: { ok: false, code: 'clash', course: 'BBB 100', label: '02', state: 'in the line-up', clash } })).toEqual({
      title: 'AAA 200 and BBB 100 clash',
      words: 'Clashes with BBB 100-02 (in this line-up), first on 19 Jan 2027. Choose another bundle for one of the two in Week.' })
    expect(sayStep({ ...common, code: 'refused', course: 'AAA 200',
      finding: { ok: false, code: 'section-cancelled', course: 'AAA 200', label: '02' } }).title).toBe('AAA 200 would be refused')
    expect(sayStep({ ...common, code: 'register', courses: 1 }).title).toBe('Register 1 course')
    expect(sayStep({ ...common, code: 'cover open', credits: 750 }).words).toBe('7.5 credits of your requirements have no course yet.')
    const check: PlanCheck = { ...place, kind: 'term off', in: spring }
    expect(sayStep({ ...common, code: 'mend', check, term: spring })).toEqual({ title: 'Mend AAA 200 in Spring 2027',
      words: sayCheck(check) })
    expect(sayStep({ ...common, code: 'mend', check: { ...check, course: null }, term: null }).title).toBe('A later term needs mending')
  })
})

describe('sayWhy and sayCandidate', () => {
  it.each<[Why, string]>([
    [{ code: 'asks for itself', course: 'AAA 200' }, 'AAA 200 asks for itself'],
    [{ code: 'needs what cannot be had', course: 'AAA 200', why: { code: 'placement', test: 'MTH', score: 60 } },
      'AAA 200 needs something that cannot be had any more: a MTH placement of 60'],
    [{ code: 'excluded', course: 'AAA 200', by: 'BBB 100', state: 'completed' }, 'AAA 200 gives no credit beside BBB 100, which is passed'],
    [{ code: 'credits', credits: 9000 }, '90 credits earned'],
  ])('%#', (why, words) => expect(sayWhy(why)).toBe(words))
  it('says when a candidate can be taken', () => {
    const one = course('AAA 200', { offered: { seasons: ['fall'] } })
    const fall = { code: '2027FA', name: '' } as Term
    expect(sayCandidate({ course: one, note: { code: 'can take' } })).toBe('you can take it')
    expect(sayCandidate({ course: one, note: { code: 'offered later', term: fall } })).toBe('fall: Fall 2027')
    expect(sayCandidate({ course: one, note: { code: 'ready later', term: fall, then: 'if passed' } })).toBe(
      'from Fall 2027: if what is under way is passed',
    )
  })
})

describe('what else is said', () => {
  it('names a term that nobody has announced by season and year', () =>
    expect([termName(spring), termName({ code: '2031SU', name: '' })]).toEqual(['Spring 2027', 'Summer 2031']))
  it('tells what moves do', () => {
    const said = (move: MoveName) => sayMove(move)
    expect([
      said({ code: 'take out', course: 'AAA 200' }),
      said({ code: 'take the place out' }),
      said({ code: 'move here', term: spring }),
      said({ code: 'move', course: 'AAA 100', term: spring }),
      said({ code: 'place', course: 'AAA 100', term: spring }),
      said({ code: 'put back', term: spring, without: ['BBB 100'] }),
    ]).toEqual(['Take AAA 200 out', 'Take this place out', 'Move to Spring 2027', 'Move AAA 100 to Spring 2027',
      'Place AAA 100 in Spring 2027', 'Put Spring 2027 back as it was signed off, without BBB 100'])
  })
  it('tells rules about the whole program', () => {
    expect([ruleTitle(total), sayRule(total)]).toEqual(['120 credits in all',
      '30 of 120 cr earned, 45 with all that is under way and planned'])
    const gpa = (outlook: Extract<RuleReport['reading'], { kind: 'gpa' }>['outlook'], now: number | null = 190): RuleReport => ({ id: 'g',
      title: 'Overall', state: 'open', reading: { kind: 'gpa', now, asked: 200, outlook } })
    const most = (used: number, over: number, counted: boolean) => sayRule({ id: 'm', title: 'M', state: 'met',
      reading: { kind: 'maximum', used, most: counted ? 2 : 600, courses: counted, over } })
    expect([most(600, 300, false), most(1, 0, true)]).toEqual([
      '6 cr of at most 6 cr; for nothing: 3 cr more', '1 course of at most 2 courses'])
    expect(sayRule(gpa(null, null))).toBe('no grades yet, 2.00 asked')
    expect(sayRule(gpa({ code: 'nothing ahead' }))).toMatch(/nothing that counts in it is planned/)
    expect(sayRule(gpa({ code: 'too little planned', credits: 300 }))).toMatch(/3 cr of it still to come cannot lift it that far/)
    expect(sayOutOfReach(gpa({ code: 'out of reach', top: 400, credits: 300 }))).toMatch(/^Even 4\.00 in all the 3 credits that are left/)
    expect(sayOutOfReach(gpa(null))).toBe('')
  })
  it('tells what a line lacks', () => {
    expect(sayLacking(null)).toBe('')
    expect(sayLacking({ code: 'listed', courses: ['AAA 100', 'BBB 100'] })).toBe('2 courses open')
    expect(sayLacking({ code: 'amount', courses: 1, credits: null, more: true, another: 'subject' })).toBe(
      'choose 1 more from another subject',
    )
    expect(sayLacking({ code: 'amount', courses: 0, credits: 300, more: false, another: null })).toBe('3 cr open')
  })
  it('tells filters with all their parts', () => {
    expect(describeFilter({ subjects: ['AAA', 'BBB'], levelMin: 200, levelMax: 300 })).toBe('AAA or BBB courses at 200 to 399')
    expect(describeFilter({ levelMin: 300, levelMax: 300, attributes: ['Field'] })).toBe('any courses in Field at 300')
  })
  it('tells pins, sharing rules and uses', () => {
    expect(sayBrokenPin({ itemId: 'i', course: 'AAA 100', line: 'x', because: 'does not fit', grade: 'D' })).toBe(
      'AAA 100 is pinned there, but does not fit the line with D.',
    )
    expect(saySharedRule({ courses: null, credits: 600, programs: ['A', 'B'] })).toBe('At most 6 credits may count in both A and B.')
    const change: UseChange = { lineId: 'x', title: 'X', lines: [], moved: [], cost: 0, others: [], elsewhere: [],
      instead: true, aside: false, lessMet: false }
    expect(sayUseChange(change)).toMatch(/^In X instead: the same progress/)
    expect(sayUseChange({ ...change, lines: [{ title: 'Y', before: 0, after: 300 }], cost: 300 })).toBe(
      'In X instead: Y would have 3 cr open. 3 cr more open in all.',
    )
    expect(sayUseChange({ ...change, elsewhere: [{ program: 'Minor', from: 'Z', to: null }],
      others: [{ title: 'Minor', before: 0, after: 300 }], cost: 300 })).toBe(
      'In X instead: it would no longer count in Minor; Minor would have 3 cr more open. 3 cr more open in all.',
    )
  })
  it('tells what is needed against the record alone, and against the plan', () => {
    const needs = [[{ condition: named('AAA 100'), held: { state: 'completed' as const, term: '2025FA', grade: 'D' } }], [{
      condition: named('BBB 100'),
      held: null,
    }]]
    expect(sayNeeds(needs)).toBe('AAA 100 (you have D); or BBB 100 first, which is not in the plan')
    expect(sayNeeds(needs, 'record')).toBe('AAA 100 (you have D); or BBB 100, which is not on your record')
  })
  it('tells what decided a condition', () => {
    expect(
      sayBecause({ expression: named('AAA 100'),
        because: { code: 'not before', course: 'AAA 100', state: 'planned', sameTerm: true, alongside: false } }),
    ).toBe('AAA 100 is planned for the same term, it must come first')
    expect(sayBecause({ expression: { kind: 'placement', test: 'MTH', score: 60 }, because: { code: 'score', score: 40 } })).toBe(
      'MTH placement score 40',
    )
  })
  it('tells what is wrong with a catalog', () => {
    const found = checkCatalog(
      courseMap(course('AAA 100', { prerequisite: 'BBB 100 with Q' }), course('BBB 100', { prerequisite: 'CCC 100' }),
        course('DDD 100', { prerequisite: 'DDD 100' })),
    )
    expect(found.map(sayCatalogProblem)).toEqual([
      expect.stringMatching(
        /^The prerequisite of AAA 100, "BBB 100 with Q", cannot be read: at character 14, a grade that earns credit was expected/,
      ),
      'A rule of BBB 100 names CCC 100, which is not in the catalog. Add the course, or correct the code.',
      'DDD 100 waits for itself and can never be taken. Take it out of its own rules.',
    ])
  })
  it('tells why no draft is possible', () => {
    expect(
      sayDraftReason({ code: 'conflict', proved: true, constraints: [{ code: 'load', credits: 900 }, { code: 'finish by', term: '2028FA' }],
        lacking: [] }),
    ).toBe('At most 9 credits a term and finishing by Fall 2028 cannot hold together.')
    expect(
      sayDraftReason({ code: 'no course found', proved: false, lacking: [{ code: 'rule', title: 'Upper', program: 'P' }], last: spring,
        shared: [] }),
    ).toBe('No course was found for Upper (P) in the terms up to Spring 2027, the last in the academic calendar.')
    expect(sayDraftReason({ code: 'calendar too short', proved: true, last: null })).toBe('The academic calendar has no term ahead.')
  })
})
