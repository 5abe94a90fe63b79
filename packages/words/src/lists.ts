/** "A, B and C". */
export function joinWords(words: readonly string[], last: 'and' | 'or'): string {
  if (words.length < 2) return words[0] ?? ''
  return `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}`
}

/** "1 course", "3 courses". */
export const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`

/** Words as a sentence: a capital first, and a full stop unless there is one. */
export const sentence = (words: string) =>
  words === '' ? '' : `${words.charAt(0).toUpperCase()}${words.slice(1)}${words.endsWith('.') ? '' : '.'}`
