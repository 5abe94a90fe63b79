import type { HelpPage } from './types'

export const ADVISOR_HELP: readonly HelpPage[] = [
  { title: 'Advisees', at: 'advisees', picture: 'advisees',
    first: 'Everybody whom you advise, those who need you first, with why.',
    marks: [['why', 'sign-off asked, questions, blockers in the next term, an opening soon without sign-off, a finish that slips, holds, '
    + 'silence'], ['deputy', 'you answer for somebody who is away, until the day that is said']],
    next: ['"Work through" opens one after the other: s signs off, r gives back, j goes on.',
      'Sign off several at once where nothing is wrong; each is listed before.',
      'Say when you are away and who answers for you.'] },
  { title: 'Brief', at: 'brief', picture: 'review',
    first: 'One screen for a quarter of an hour with a student: what changed since you last looked, what is to be settled, how they stand.',
    marks: [['differs from what was signed', 'what was changed after a sign-off'], ['suggested', 'drawn beside what stands until the '
    + 'student '
    + 'takes or declines it']],
    next: ['Settle what is asked: exceptions, program changes, comments.', 'Suggest a change on the plan itself.',
      'Sign off exactly what is seen, or give it back with words.', 'Write notes: shared ones the student reads, private ones nobody '
      + 'else.'] },
  { title: 'Meetings', at: 'hours',
    first: 'Your office hours, and who has booked.', marks: [['free', 'a time that students can still book']],
    next: ['Set your hours; students book, move and cancel by themselves.', 'Take them along as a calendar.'] },
]

export const OFFICE_HELP: readonly HelpPage[] = [
  { title: 'Today', at: 'office', picture: 'office',
    first: 'What needs the office, most pressing first, and how fast registration goes beside earlier openings.',
    marks: [['could not register yet', 'who of those let in lacks a sign-off, has a hold, or has not confirmed the program']],
    next: ['Follow a line to where it is done.', 'Close registration for everybody in Terms, with what students read.'] },
  { title: 'Terms', at: 'terms',
    first: 'The calendar: dates, loads, and who may register from when.',
    marks: [['opening', 'the moment from which those it names may register']],
    next: ['Change openings with whose moment moves in sight, before they are kept.',
      'Set days without classes, moved days and sessions under "Days and sessions"; a calendar file may bring the days.',
      'Add a term: its days begin as those of the same season before it.'] },
  { title: 'Sections', at: 'sections',
    first: 'Seats of the working term as they change, what needs you first.',
    marks: [['held', 'a seat kept for somebody on the waitlist until they answer'], ['planned by', 'students who have the course in '
    + 'their plan']],
    next: ['Open one to set its seats or keep some for a group.', 'Cancel one with whom it touches and what each would be offered in '
    + 'sight.'] },
  { title: 'Demand', at: 'demand', picture: 'demand',
    first: 'What students plan beside the seats there are; for a term without sections, how many will take each course.',
    marks: [['short', 'students without a seat beyond those that are left'], ['behind it', 'courses that wait for it'],
      ['what the lack costs', 'finishes that would move, and by how many fall and spring terms'],
      ['eight times in ten', 'the range of a forecast, from how far forecasts of past terms were off']],
    next: ['Open a course for who needs it, when they are free, and how many sections would do.', 'Choose a later working term for a '
    + 'forecast.',
    'Save it as CSV.'] },
  { title: 'People', at: 'people',
    first: 'Requests for exceptions, holds, programs to confirm, who has not paid, who has no advisor, and exceptions in force.',
    marks: [['by rule', 'a hold that the college\'s own rules placed; it goes when what caused it is settled']],
    next: ['Place or clear holds for a whole list.', 'Give a student another advisor.', 'Erase a person for good.'] },
  { title: 'College', at: 'college',
    first: 'The college\'s tables, brought in and taken out; the check of its catalog; its programs; how advising works.',
    marks: [['rows here', 'how much of a table there is'], ['check of the catalog', 'what nobody can get past: rules, lines, '
    + 'sequences, hours']],
    next: ['Bring a table again whenever it changes: what would change is shown before.',
      'Bring a roster of the open standard, or records and plans as JSON, and take them out the same way.',
      'Open a program to change its rules.'] },
  { title: 'Program', at: 'program', picture: 'program',
    first: 'A program\'s rules as a tree or as text, with what a change comes to: for students, for worked cases, for all who are in it.',
    marks: [['holds', 'a worked case comes to what it expects'], ['loses, gains', 'more or less open, or a later or sooner finish, '
    + 'than with '
    + 'the rules in force']],
    next: ['Change a line; everything beside it is read again.', 'Keep a record as a worked case, without a name.',
      'See whom it touches, then put it in force; what it was stays under "Before".'] },
  { title: 'Settings', at: 'settings',
    first: 'The college itself: its name and hours, grades, repeats, seat offers, tuition, what comes back, and ways of paying.',
    marks: [['stands for', 'the points with which a grade answers a minimum grade']],
    next: ['Change what is to change and keep it as a whole; what people or rules rest on cannot be taken away.'] },
  { title: 'What happened', at: 'ledger',
    first: 'Everything that was ever done, by whom and when; of everybody, of one student, or of one section.', marks: [],
    next: ['Search a student or a section for its story.', 'Choose one kind of act, or begin at the end of a day.'] },
  { title: 'Progress of everybody', at: 'progress',
    first: 'When all students finish as they plan it, worked out file by file when you ask for it, and by program.',
    marks: [['no finish', 'the plan as it is does not come to an end of the program'], ['forbidden', 'something in the plan is refused by '
    + 'a rule'], ['low average', 'an average that a program asks for is not reached now']],
    next: ['Press "Work it out"; it can be cancelled.', 'Press a number to see who is behind it.', 'Take all of it out as a table.'] },
  { title: 'This server', at: 'server',
    first: 'What the server that answers you was asked since it started, and how long that took, route by route; and the databases.',
    marks: [['failed here', 'answers that failed by the server\'s own fault'], ['half within', 'half of the answers took no longer'],
      ['keeps others waiting', 'the longest that one request held up the others lately']],
    next: ['Look here when people say that it is slow.', 'Let your own monitoring read /api/metrics with a token that reads.'] },
  { title: 'API access', at: 'tokens',
    first: 'Tokens by which other programs ask and act in your name, as far as you may.',
    marks: [['read', 'it can look, and change nothing']], next: ['Make one, copy it once, revoke it when it is not used any more.'] },
  { title: 'The clock', at: 'clock',
    first: 'Of the demonstration only: sets the college\'s present moment, so that an opening can be seen whenever you like.',
    marks: [], next: ['Set a moment, or jump to ten seconds before the opening.'] },
]
