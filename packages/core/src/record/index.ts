export * from './attempts'
export * from './facts'
export * from './ids'
export * from './repeats'
