export * from './search'
export * from './text'
export * from './lines'
export * from './courses'
