import MiniSearch from 'minisearch'
import type { Course, CourseCode, Section } from '../catalog/types'

/** What a line of text asks for. */
export type TextQuery
  = | { kind: 'nothing' }
  /** One section number or a pasted list of them. */
    | { kind: 'numbers', numbers: string[] }
  /** A course, or one bundle of it by its label. */
    | { kind: 'code', course: CourseCode, label: string | null }
    | { kind: 'words', words: string[] }

/** Words that say nothing about a course. */
const EMPTY = new Set(['and', 'of', 'the', 'in', 'to', 'for', 'a', 'an', 'with', 'course', 'class', 'section', 'sections'])
const MOST_NUMBERS = 30

/** Reads what was typed or pasted: section numbers are told by their five digits, a course by its code however it is spaced. */
export function readText(text: string): TextQuery {
  const plain = text.trim().toLowerCase()
  if (plain === '') return { kind: 'nothing' }
  const tokens = plain.split(/[\s,;]+/).filter(Boolean)
  if (tokens.every(token => /^#?\d{5,}$/.test(token)))
    return { kind: 'numbers', numbers: [...new Set(tokens.map(token => token.replace('#', '')))].slice(0, MOST_NUMBERS) }
  const code = /^([a-z]{3})[\s-]*(\d{3}[a-z]?)(?:[\s-]+([0-9][a-z0-9]{1,3}))?$/.exec(plain)
  if (code) return { kind: 'code', course: `${code[1]!.toUpperCase()} ${code[2]!.toUpperCase()}`, label: code[3]?.toUpperCase() ?? null }
  const words = wordsOf(plain).filter(word => !EMPTY.has(word))
  return words.length > 0 ? { kind: 'words', words } : { kind: 'nothing' }
}

/** Letters without their accents, digits by themselves: `hyd230` is two words, so that either can be mistyped. */
const wordsOf = (text: string): string[] =>
  text.toLowerCase().normalize('NFD').replace(/\p{M}/gu, '').replace(/([a-z])(?=\d)/g, '$1 ').split(/[^\p{L}\p{N}]+/u).filter(Boolean)

interface Doc { id: string, code: string, title: string, more: string, description: string }
/** What is found weighs by where: a code more than a title, a title more than what is said at length. */
const BOOST = { code: 6, title: 4, more: 3, description: 0.4 }

/** What answers to words: how well, and to which of them. */
interface Answer { score: number, asked: readonly string[] }

/** Courses and sections by their words, with typos forgiven. */
export interface TextIndex {
  /** Courses by code, and sections by id where the words are of their topic, teacher or group. */
  search: (words: readonly string[]) => { courses: ReadonlyMap<CourseCode, Answer>, sections: ReadonlyMap<number, Answer> }
}

/** Makes the index of courses and, where there are any, of what their sections say beyond them. Made once a catalog or a term. */
export function makeTextIndex(courses: Iterable<Course>, sections: Iterable<Section> = []): TextIndex {
  const index = new MiniSearch<Doc>({ fields: ['code', 'title', 'more', 'description'], tokenize: wordsOf, processTerm: term => term })
  const subjects = new Set<string>()
  for (const { code, title, description, attributes } of courses) {
    subjects.add(code.slice(0, code.indexOf(' ')).toLowerCase())
    index.add({ id: code, code, title, more: attributes.join(' '), description })
  }
  for (const { id, topic, instructors, group } of sections)
    index.add({ id: String(id), code: '', title: topic, more: [...instructors, group].join(' '), description: '' })

  return { search: (asked) => {
    const words = asked.map(word => nearestSubject(word, subjects))
    const found = index.search(words.join(' '), { boost: BOOST, combineWith: 'OR', prefix: true,
      // Two letters may be wrong in a long word, which is what two that changed places are; one in a short one, none in numbers.
      fuzzy: term => /\d/.test(term) || term.length < 3 ? false : term.length > 4 ? 2 : 1, maxFuzzy: 2,
      weights: { fuzzy: 0.35, prefix: 0.6 } })
    const courses = new Map<CourseCode, Answer>()
    const sections = new Map<number, Answer>()
    for (const { id, score, queryTerms } of found) {
      if (/^\d+$/.test(id as string)) sections.set(Number(id), { score, asked: queryTerms })
      else courses.set(id as string, { score, asked: queryTerms })
    }
    return { courses, sections }
  } }
}

/** A mistyped subject, of three letters or more, becomes the one that is a letter, or two changed places, away. */
function nearestSubject(word: string, subjects: ReadonlySet<string>): string {
  if (!/^[a-z]{3,5}$/.test(word) || subjects.has(word)) return word
  return [...subjects].find(subject => [...subject].sort().join('') === [...word].sort().join('')) ?? word
}
