import { ADVISOR_HELP, OFFICE_HELP } from './staff'
import { STUDENT_HELP } from './student'
import type { HelpPage } from './types'

export { GLOSSARY } from './glossary'

interface Guide { file: string, title: string, begin: string, pages: readonly HelpPage[] }
/** The three guides, each with the views of those whom it is for. */
export const GUIDES: readonly Guide[] = [
  { file: 'student', title: 'For students', pages: STUDENT_HELP,
    begin: 'Everything stands on five waypoints at the top: what to do now, what is required, when you take it, the week, and registering. '
      + 'The working term beside them is the one that every view is about.' },
  { file: 'advisor', title: 'For advisors', pages: ADVISOR_HELP,
    begin: 'You begin with your advisees, those who need you first. An advisee\'s file is what the student sees, with your name beside it '
      + 'and a bar at the foot for what only you can do.' },
  { file: 'office', title: 'For the registrar\'s office', pages: OFFICE_HELP,
    begin: 'You begin with what needs you today; each line leads to where it is done. What changes rules, seats or dates for many '
      + 'shows whom '
      + 'it touches before it is kept.' },
]

/** What a view is for, by the last part of its address; null for one that explains itself. */
export const helpFor = (at: string): HelpPage | null =>
  GUIDES.flatMap(guide => guide.pages).find(page => page.at === at) ?? null
