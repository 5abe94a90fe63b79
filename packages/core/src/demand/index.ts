export * from './demand'
export * from './forecast'
export * from './times'
export * from './waits'
