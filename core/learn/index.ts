/** Learning an edition: what there is to know, when it is asked again, and what one's own hand pours. */

export { type Given, gradeOf, isRight } from './grade.ts'
export { type Between, type Hand, handOf, isBiased, LEAST_POURS } from './hand.ts'
export type { Grade, LearnAnswer, PracticeDocument, TestPour } from './practiceSchema.ts'
export {
  changedSince,
  type DrinkToLearn,
  QUESTION_KINDS,
  type Question,
  type QuestionKind,
  questionsOf,
} from './questions.ts'
export { type Progress, progressOf, type Remembered, rememberedBy, toAsk } from './schedule.ts'
