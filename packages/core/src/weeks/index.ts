export * from './bundles'
export * from './meetings'
export * from './arrange'
export * from './hours'
