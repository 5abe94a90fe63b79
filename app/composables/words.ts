/** `2027-01-04` → `4 Jan 2027`. */
export function longDate(date: string): string {
  return new Date(`${date}T12:00:00Z`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
}

export function count(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`
}

/** 1st, 2nd, 3rd, 4th, 11th. */
export function ordinal(n: number): string {
  const teen = n % 100 > 10 && n % 100 < 14
  return `${n}${teen ? 'th' : ['th', 'st', 'nd', 'rd'][n % 10] ?? 'th'}`
}
