/** Learning an edition: what there is to know, when it is asked again, and what one's own hand pours. */

export { type Given, gradeOf, isRight } from './grade.ts'
export {
  type Between,
  type Hand,
  handNow,
  handOf,
  isBiased,
  LEAST_POURS,
  newestSittings,
  type Sitting,
} from './hand.ts'
export type { Grade, LearnAnswer, PracticeDocument, TestPour } from './practiceSchema.ts'
export { answersIn, type Practised, sittingsIn } from './practised.ts'
export {
  changedSince,
  type DrinkToLearn,
  QUESTION_KINDS,
  type Question,
  type QuestionKind,
  questionsOf,
} from './questions.ts'
export { type Progress, progressOf, type Remembered, rememberedBy, toAsk } from './schedule.ts'
