/** What other features may use of this one. */

export { glassAt, serveIceAt } from './edits.ts'
export { Margin } from './Margin.tsx'
export { SpecSheet } from './SpecSheet.tsx'
export { type ReplaceLine, withLines } from './useFound.ts'
