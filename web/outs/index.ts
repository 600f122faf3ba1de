export { PourTonight } from './PourTonight.tsx'
export { placeOfOut, useOuts, useStands } from './useOuts.ts'
export { darkAt, isFromBefore, missingWords, otherwiseWords, saidWords, standsWords, whereWords } from './words.ts'
