export * from './next-steps'
