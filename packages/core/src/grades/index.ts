export * from './gpa'
export * from './scale'
export * from './status'
