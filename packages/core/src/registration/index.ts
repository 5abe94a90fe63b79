export * from './decide'
export * from './findings'
export * from './gates'
export * from './seats'
