export { type Difference, diffDocuments } from './diffDocuments.ts'
