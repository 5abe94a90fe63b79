export * from './plan'
export * from './program'
export * from './program-schema'
