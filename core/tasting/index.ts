/** Drinks tasted, blind or on a night: the draw, honest statistics for few tasters, and what notes ask for. */

export { type Draw, drawTasting } from './draw.ts'
export {
  type NoteSteps,
  openNotes,
  type Proposal,
  proposalOf,
  type SaidNote,
  saidText,
  USUAL_NOTE_STEPS,
} from './proposals.ts'
export { type PairResult, resultsOf, type SubjectResult, standingSheets, type TastingResult } from './results.ts'
export { oftenText, permutationTest, provesText, type SignTest, signTest } from './statistics.ts'
export {
  FEWEST_SUBJECTS,
  MOST_SUBJECTS,
  MOST_TASTERS,
  NOTE_WORDS,
  type NoteWord,
  type Scores,
  TASTE_LINES,
  type TasteLine,
  type TasteNote,
  type TastingDocument,
  type TastingEvent,
  type TastingKey,
  type TastingSheet,
} from './tastingSchema.ts'
