export * from './mend-week'
export * from './next-steps'
