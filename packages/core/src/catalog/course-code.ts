/**
 * A course as catalogs number them (common practice, no source): a subject of two to five capitals, three or four digits, and up to two
 * letters behind them; ten characters in all at most.
 */
export const COURSE_CODE = /^(?=.{6,10}$)[A-Z]{2,5} \d{3,4}[A-Z]{0,2}$/
