/** How many of a thing one person can make; more is refused in words. */
export const LIMITS = {
  /** Plans that a student keeps (common practice, no source). */
  plans: 5,
  /** Deleted plans that can still be brought back; older ones are gone. */
  deletedPlans: 10,
  /** Courses, and places held, in one plan: far more than any program asks. */
  entries: 150,
  placeholders: 60,
  /** What is written beside one student's plans. */
  comments: 1000,
  /** Lines of one suggestion, and those that stand open beside one plan. */
  suggestions: 40,
  /** Requests for exceptions that are not answered, notes about one student, and meetings of one student to come. */
  requests: 20,
  notes: 500,
  meetings: 3,
  /** Operations in one sending. */
  operations: 200,
  /** Rows of a line-up in one term. */
  lineUp: 20,
  /** Backups of one row of a line-up. */
  backups: 5,
  /** Wishes for the weeks of one term, bundles kept in mind for it, and searches kept by name. */
  wishes: 30,
  shortlist: 40,
  searches: 20,
  /** Pages of one person that listen for news, on one server. */
  streams: 12,
  /** Sessions of one person; the oldest ends when another begins. */
  sessions: 20,
  /** Tokens of one person, and requests by one of them in a minute. */
  tokens: 10,
  tokenRequests: 120,
} as const
