import type { HelpPage } from './types'

/** A student's own views, which an advisor and the office see as well. */
export const STUDENT_HELP: readonly HelpPage[] = [
  { title: 'Now', at: 'now', picture: 'now',
    first: 'What to do next, in order, each line leading to the place where it is done; beside it what must be open before you can '
      + 'register, '
      + 'the dates that count, and how far you are.',
    marks: [['gate', 'something that must be open before registering: the opening, the sign-off, no holds, the program confirmed, the '
    + 'terms '
    + 'accepted'], ['struck through', 'a date that is past'], ['standing', 'credits earned, average, and the finish that the plan '
    + 'comes to']],
    next: ['Begin with the first line of "Next on your path".', 'Ask for sign-off here once the working term is planned.',
      'Answer what your advisor suggests or asks; it stands here until you do.'] },
  { title: 'Requirements', at: 'requirements', picture: 'requirements',
    first: 'What your programs ask and how your courses fill it. Every course is used where all of it together fills most; point at one to '
      + 'see where it counts, and where it could.',
    marks: [['solid block', 'completed, with its grade'], ['part filled', 'under way, filled to the week reached'],
      ['thick left and bottom edge', 'registered'], ['thin outline', 'picked: a section is chosen'], ['dotted outline', 'planned'],
      ['hollow', 'open: nothing fills it yet'], ['broken baseline', 'counts for nothing yet'],
      ['met · under way · covered · open', 'filled by what is passed; by what goes on; by the plan; not yet']],
    next: ['Open a line to read its rule, what counts there and why, and what could fill it.', 'Place a course from there into a term.',
      '"What is the least that would meet it" works out the fewest courses.',
      'Where nothing can fill a line any more, ask for a substitution or a waiver from the line itself.',
      '"Try another program" reads your record against another one; nothing is changed by looking.'] },
  { title: 'Try another program', at: 'programs', picture: 'programs',
    first: 'Your record read against other programs, up to three side by side. Nothing is changed by looking.',
    marks: [['earliest finish', 'no plan can finish it earlier; a real one may take longer'],
      ['carries over', 'credits of yours that a line there uses'], ['credits lost', 'what no line there has room for'],
      ['cannot be reached', 'what nothing can fill any more, and why']],
    next: ['Choose a program in each column.', 'Ask for a change from its column; your advisor and the college decide it.'] },
  { title: 'Standing on paper', at: 'standing',
    first: 'What your programs ask and how they are filled, line by line, with the day and the catalog year that it was read by.',
    marks: [], next: ['Print it or keep it as PDF.'] },
  { title: 'Plan', at: 'plan', picture: 'plan',
    first: 'Your courses by requirement area and term, to the finish. Everything is read again at every move.',
    marks: [['rust notch with a number', 'problems of that course; solid ones block, outlined ones are cautions'],
      ['pin', 'leave it where it is: neither a draft nor a move of others shifts it'],
      ['slack', 'how many terms a course can slide before the finish moves'],
      ['hatching', 'suggested or drafted, not taken yet'], ['tray', 'what is required and has no term yet']],
    next: ['Drag a tile into another term, or move it with Alt and the arrows.', 'Press n to walk through what is wrong, each with '
    + 'moves that '
    + 'mend it.', '"Draft the rest" fills what is open around what is pinned, up to three ways.',
    'Keep up to five plans; one is the current one.'] },
  { title: 'Prerequisite map', at: 'map',
    first: 'The courses of a program by what must come first, left to right, with those that hold up the most others named at the top.',
    marks: [['whole line', 'this must come first'], ['broken line', 'one of several must come first'],
      ['number in a corner', 'how many courses of the map wait for it']],
    next: ['Point at a course to see what it waits for and what waits for it.', 'Open one to place it into a term.',
      'Choose another of your programs above; the table below says the same in words.'] },
  { title: 'Compare plans', at: 'compare',
    first: 'Two of your plans side by side: credits by term, the finish, and what each leaves open.',
    marks: [['mark at the left of a row', 'the two plans differ there']],
    next: ['Choose which two, then go on with the better one: make it the current plan under Plan.'] },
  { title: 'Plan on paper', at: 'plan-sheet',
    first: 'The whole plan on one landscape page, areas down and terms across, as it stands now.',
    marks: [], next: ['Print it or save it as PDF; the board stays where changes are made.'] },
  { title: 'Week', at: 'week', picture: 'week',
    first: 'The week of the working term on its side, and below it each planned course with its bundles: times, place, seats, and '
      + 'whether it '
      + 'fits.',
    marks: [['bundle', 'a lecture with the lab or tutorial that goes with it; taken as one'],
      ['mini-week', 'the days on which it meets'], ['hatched hours', 'kept free'], ['backup', 'the bundle to take when the first is full']],
    next: ['Pick a bundle in each column; pointing at one shows it in the week.', 'Draw over hours to keep them free.',
      '"Arrangements" finds the best weeks of all that there are, by your wishes.',
      '"Take it along" has the week as a calendar, a feed, or on paper.'] },
  { title: 'Register', at: 'register', picture: 'register',
    first: 'The run sheet: your picks in order, each with every check and what would happen. The button says what it does.',
    marks: [['will register', 'everything is checked, and there is a seat'], ['joins the waitlist', 'full; you would wait at the '
    + 'place that '
    + 'is said'], ['refused', 'why, and what to do about it'], ['gate', 'what must be open first, with a countdown']],
    next: ['Put the course that matters most first.', 'Before the opening, arm the press: it goes by itself in the first moment.',
      'Afterwards exchange, drop or take an offered seat here; what it comes to stands there before.'] },
  { title: 'Find', at: 'find', picture: 'find',
    first: 'Sections of the working term, or courses of the catalog, by words, codes, a pasted list of numbers, and conditions that '
      + 'read as '
      + 'one sentence.',
    marks: [['the bar "not shown"', 'how many are left out and why; it opens'], ['dark in the strip', 'this bundle in the week'],
      ['pale in the strip', 'what you have picked']],
    next: ['Press an open requirement to see what fills it.', 'Add conditions to the sentence; each says how many it leaves.',
      'p plans, Enter picks, s puts on the shortlist.'] },
  { title: 'Account', at: 'account', picture: 'account',
    first: 'What a term costs, what is paid and due, and everything that was charged or given back.',
    marks: [['due', 'what has to be paid by the date that is said; unpaid courses are voided after it, and warned of before']],
    next: ['Pay what is due, or choose to pay in parts.', 'Ask for money back where you have more than is owed.'] },
  { title: 'Meetings', at: 'meetings',
    first: 'The meetings with your advisor that are booked, and the free times of the next three weeks by day.',
    marks: [], next: ['Choose a free time; it is booked at once.', 'Move or cancel a booked one; its time is free for others then.'] },
  { title: 'Payment desk', at: 'desk',
    first: 'A stand-in of the demonstration for the house that takes cards: no real card is asked for and no money moves.',
    marks: [], next: ['Give one of the made-up cards; each answers as it says. You come back to your account.'] },
  { title: 'Messages', at: 'messages',
    first: 'What happened that concerns you, what to do about it, and whether it comes by mail.',
    marks: [['bold', 'new to you']], next: ['Choose by mail at once, once a day, or not at all.'] },
]
