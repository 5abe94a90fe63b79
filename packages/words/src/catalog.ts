import type { CatalogProblem, Expected, ParseProblem } from '@ridgeway/core/prerequisites'
import { joinWords } from './lists'

/** What was expected at a place of a rule's text. */
function sayExpected(expected: Expected): string {
  switch (expected.code) {
    case 'a token':
      return 'a course code, a number, a word or a parenthesis was expected'
    case 'and, or, or the end':
      return '"and", "or" or the end of the rule was expected'
    case 'a word':
      return `${
        expected.words.length > 2 ? joinWords(expected.words, 'or') : expected.words.map(word => `"${word}"`).join(' or ')
      } was expected`
    case 'a number from 1':
      return `a number from 1 to ${expected.to} was expected`
    case 'a level':
      return 'a level such as 300+ was expected'
    case 'a subject':
      return 'a subject such as HYD was expected'
    case 'a grade':
      return expected.grades.length > 0
        ? `a grade that earns credit was expected: ${joinWords(expected.grades, 'or')}`
        : 'a grade such as C or B- was expected'
    case 'fewer parentheses':
      return 'the rule is nested too deeply; write it with fewer parentheses'
    case 'an average':
      return 'an average such as 2.50 was expected'
    default:
      return `${expected.code} was expected`
  }
}

/** Where a rule cannot be read, counted from 1, and why. */
const sayParseProblem = ({ at, expected }: ParseProblem): string => `at character ${at + 1}, ${sayExpected(expected)}`

/** What is wrong with a catalog, and what to do. */
export function sayCatalogProblem(problem: CatalogProblem): string {
  switch (problem.code) {
    case 'unreadable rule':
      return `The ${problem.rule} of ${problem.course}, "${problem.text}", cannot be read: ${sayParseProblem(problem.problem)}.`
    case 'unknown course':
      return `A rule of ${problem.course} names ${problem.names}, which is not in the catalog. Add the course, or correct the code.`
    case 'ring':
      return problem.courses.length === 1
        ? `${problem.courses[0]} waits for itself and can never be taken. Take it out of its own rules.`
        : `${joinWords(problem.courses, 'and')} wait for each other and can never be taken. Take one of them out of the others' rules.`
  }
}
