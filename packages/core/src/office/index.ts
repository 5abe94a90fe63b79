export * from './needs'
export * from './program-change'
