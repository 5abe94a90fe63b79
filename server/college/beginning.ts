import { LETTER_SCALE } from '@ridgeway/core/grades'

/** What a college that says nothing else begins with; the office changes it where that has a place. */
export const BEGINNING = {
  gradeScale: LETTER_SCALE,
  repeatPolicy: 'best' as const,
  termsText: 'By registering you agree to pay the fees of the term by their due date.',
  money: {
    bands: [{ code: 'resident', name: 'Resident', perCredit: 0 }],
    siteFees: {},
    refunds: [],
    plans: [{ code: 'whole', name: 'All at once', parts: [{ days: 0, percent: 100 }] }],
    lateDays: 7,
    graceDays: 3,
  },
  advising: {
    changedAfter: 'shown' as const, releaseCode: 'instead' as const, releaseDays: 14, silentDays: 21,
    entitled: { 'substitution': 'advisor', 'waiver': 'advisor', 'prerequisite': 'advisor', 'load': 'advisor', 'clash': 'advisor',
      'restriction': 'either', 'seat': 'office', 'late add': 'either' } as const,
  },
}
