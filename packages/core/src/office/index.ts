export * from './needs'
export * from './program-change'
export * from './college-check'
export * from './ledger-actions'
