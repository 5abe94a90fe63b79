export * from './credits'
export * from './filter'
export * from './terms'
export * from './types'
