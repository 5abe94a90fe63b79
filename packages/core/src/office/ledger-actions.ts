/** What the ledger knows, by the words that it keeps. */
export const LEDGER_ACTIONS = [
  'accept invitation', 'accept suggestion', 'accept terms', 'add program', 'ask exception', 'ask program change', 'book meeting',
  'cancel meeting', 'cancel section', 'change', 'clear hold', 'close registration', 'confirm program', 'decline exception',
  'decline offer', 'decline program change', 'drop', 'erase person', 'grade', 'grant program change', 'grant substitution',
  'grant waiver', 'import', 'import refused', 'invite', 'join waitlist', 'leave waitlist', 'lift rule', 'make release code',
  'make token', 'name deputy', 'offer lapsed', 'offer seat', 'open registration', 'pin use', 'place hold', 'reassign advisor',
  'record milestone', 'refuse', 'register', 'release seat', 'replace program', 'restore section', 'return plan', 'revoke token',
  'section cancelled', 'set advising', 'set college', 'set openings', 'set seats', 'set up', 'sign off', 'suggest',
  'take back lifted rule', 'take back milestone', 'take back substitution', 'take back waiver', 'use release code', 'void',
  'waitlist closed', 'withdraw', 'withdraw sign-off',
] as const
export type LedgerAction = typeof LEDGER_ACTIONS[number]
