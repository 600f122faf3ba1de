/** What other features may use of this one. */

export { drinkId, versionKeyOf } from './comparedThings.ts'
export { sheetAddress } from './sheetAddress.ts'
