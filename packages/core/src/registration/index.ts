export * from './decide'
export * from './gates'
