export * from './compile'
export * from './conflict'
export * from './search'
export * from './wishes'
