export * from './needs'
