export { isSame } from '../schema/sameness.ts'
export { circleIn } from './circleIn.ts'
export type { DecisionDocument } from './decisionSchema.ts'
export { type Difference, type DocumentKind, type DocumentKinds, differences, withDifferences } from './differences.ts'
export { type OpenQuestion, openQuestions, type SaidFinding, standingFindings } from './findings.ts'
export { ownVersionOf } from './ownVersion.ts'
export { mayAgree, middleOf, readWhen, yearsText } from './readWhen.ts'
export { type ClaimedAbout, claimedBy, type Position } from './rivals.ts'
export {
  CERTAINTIES,
  type Certainty,
  CLAIM_SUBJECTS,
  type Claim,
  type Finding,
  SOURCE_KINDS,
  VERSION_KINDS,
  type VersionKey,
  type VersionKind,
  type VersionOrigin,
  type VersionSource,
  type Years,
} from './sourceSchema.ts'
export { layOutTree, type PlacedNode, type Tree, type TreeEdge, type TreeNode } from './tree.ts'
export { yearsOf } from './yearsOf.ts'
