export * from './errors.ts'
export * from './houseFile.ts'
export * from './messages.ts'
export * from './roles.ts'
