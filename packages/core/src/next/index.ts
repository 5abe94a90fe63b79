export * from './mend-week'
export * from './moved'
export * from './next-steps'
export * from './leaving'
