import type { Well } from '@conch/core/house'

/** A well, and how a change of it is saved. */
export interface WellProps {
  well: Well
  mayEdit: boolean
  /** Says whether it was saved; a refusal has been told. */
  put: (change: Partial<Well>) => Promise<boolean>
}
