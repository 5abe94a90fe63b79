import { z } from 'zod'
import { known, view } from '../define'
import { courseCode, termCode } from '../values'
import type { Backtest, CourseDemand, CourseForecast, DayPartDemand, FreeTime } from '@ridgeway/core/demand'

export const readDemand = view({ name: 'demand', path: '/api/demand', who: 'office', input: z.object({ term: termCode }),
  output: z.object({
    /** Students who plan something for the term or are registered in it. */
    students: z.number(),
    courses: z.array(known<CourseDemand>('CourseDemand')),
    byDayPart: z.array(known<DayPartDemand>('DayPartDemand')),
    /** For a term without sections. */
    forecast: z.object({ known: termCode, courses: z.array(known<CourseForecast & { planned: number, usual: number }>('CourseForecast')),
      backtest: known<Backtest>('Backtest').nullable() }).nullable(),
  }), stamp: 'none',
  words: 'What students plan of each course of a term, beside its seats; for a term without sections, how many will take it.' })
export type Demand = z.output<typeof readDemand['output']>

export const readCourseDemand = view({ name: 'demand of a course', path: '/api/demand/course', who: 'office',
  input: z.object({ term: termCode, course: courseCode }),
  output: z.object({
    course: known<CourseDemand>('CourseDemand'),
    /** Courses that wait for it, with how many of those without a seat have them ahead. */
    behind: z.array(z.object({ course: z.string(), students: z.number() })),
    /** Students without a seat whose finish would move, those first whom it moves furthest. */
    delayed: z.array(z.object({ id: z.number(), name: z.string(), terms: z.number() })),
    /** Seats that would be enough, as whole sections of the usual size; null where none are short. */
    more: z.object({ sections: z.number(), size: z.number() }).nullable(),
    /** When most of those without a seat are free. */
    times: z.array(known<FreeTime>('FreeTime')),
  }), stamp: 'none',
  words: 'Why a course is short: who lacks a seat, what waits behind it, and when those who need it are free.' })
export type CourseStory = z.output<typeof readCourseDemand['output']>
