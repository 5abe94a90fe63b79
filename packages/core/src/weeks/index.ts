export * from './bundles'
export * from './meetings'
