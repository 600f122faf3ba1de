export { type Difference, type DocumentKind, type DocumentKinds, differences, withDifferences } from './differences.ts'
export { isSame } from './sameness.ts'
