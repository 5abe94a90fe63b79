import type { NextStep } from '@ridgeway/core/next'
import { sayException, sayWaiting } from './advising'
import { sayCheck } from './checks'
import { sayCredits } from './credits'
import { sayGate } from './gates'
import { count } from './lists'
import { sayDue, sayMoney } from './money'
import { sayFinding } from './registration'
import { sayDate, termName } from './terms'
import { sayMeetings, sayMoment } from './times'

/** One thing to do next: its name, and why or how. */
export function sayStep(step: NextStep, zone = 'UTC'): { title: string, words: string } {
  switch (step.code) {
    case 'seat offer':
      return {
        title: `A seat in ${step.course}-${step.label} is held for you`,
        words: `For ${step.hoursLeft} h more, then it goes to the next in line. Take it under Register, or let it go.`,
      }
    case 'confirm program':
      return { title: 'Confirm your program', words: sayGate(step.gate).words }
    case 'clear hold':
      return { title: 'Clear the hold', words: `${sayGate(step.gate).words}. ${sayGate(step.gate).way}` }
    case 'mend':
      return { title: mendTitle(step), words: sayCheck(step.check) }
    case 'plan term':
      return { title: `Plan ${termName(step.term)}`, words: 'Nothing is placed in this term yet.' }
    case 'sign-off asked':
      return { title: 'Sign-off is on its way', words: sayGate(step.gate).way }
    case 'ask sign-off':
      return { title: `Ask ${step.advisor ?? 'an advisor'} to sign off ${termName(step.term)}`,
        words: 'Registration stays closed until then.' }
    case 'returned':
      return step.withdrawn
        ? { title: `${step.by} withdrew the sign-off for ${termName(step.term)}`, words: step.words }
        : { title: `${step.by} asks for changes in ${termName(step.term)}`, words: step.words }
    case 'suggestions': {
      const { words, way } = sayWaiting(step.count)
      return { title: `${step.advisor ?? 'Your advisor'} suggests ${count(step.count, 'change')}`, words: `${words} ${way}` }
    }
    case 'read comments':
      return { title: `${count(step.count, 'comment')} to read`, words: 'Written beside your plan.' }
    case 'request declined':
      return { title: `${step.by ?? 'The college'} did not grant ${sayException(step.asked)}`, words: step.words }
    case 'meeting':
      return { title: `Meet ${step.advisor}`, words: `${sayMoment(step.start, zone)}, ${step.minutes} minutes, ${step.where}.` }
    case 'choose section':
      return { title: `Choose a section for ${step.course}`, words: 'It is planned, but has no bundle yet.' }
    case 'moved': {
      const { course, label, before, now } = step.moved
      return { title: `${course}-${label} was moved`,
        words: `It meets ${sayMeetings(now)} now, and met ${sayMeetings(before)} when you picked it. `
          + 'Keep it, or choose another bundle.' }
    }
    case 'accept terms':
      return { title: 'Accept the terms of registration', words: `For ${termName(step.term)}, once.` }
    case 'refused': {
      const { course, finding } = step
      const { words, way } = sayFinding(finding)
      return { title: finding.code === 'clash' ? `${course} and ${finding.course} clash` : `${course} would be refused`,
        words: `${words} ${way}` }
    }
    case 'register':
      return { title: `Register ${count(step.courses, 'course')}`, words: 'Registration is open for you.' }
    case 'pay':
      return { title: `Pay ${sayMoney(step.cents)}`, words: sayDue(step) }
    case 'voided':
      return { title: `Your registration for ${termName(step.term)} was voided`,
        words: `It was unpaid on ${sayDate(step.on)}. What is still open can be registered again; pay it with the press.` }
    case 'section gone':
      return { title: `${step.course}-${step.label} was cancelled`,
        words: step.offered
          ? 'What was charged for it was given back. A seat in another bundle is held for you: take it under Register.'
          : 'What was charged for it was given back. Choose another bundle, or another course.' }
    case 'off path':
      return { title: 'A course off the path', words: sayCheck(step.check) }
    case 'cover open':
      return { title: 'Cover what is open', words: `${sayCredits(step.credits)} of your requirements have no course yet.` }
  }
}

function mendTitle({ check, term }: Extract<NextStep, { code: 'mend' }>): string {
  if (term) return check.course ? `Mend ${check.course} in ${termName(term)}` : `Mend ${termName(term)}`
  return check.course ? `Mend ${check.course} in a later term` : 'A later term needs mending'
}
