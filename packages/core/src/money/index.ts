export * from './account'
export * from './price'
export * from './refunds'
export * from './types'
