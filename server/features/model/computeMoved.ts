import { type EditionLock, modelMoved } from '@conch/core/menu'
import { jobOf } from '../../threads/index.ts'

/** What today's model alone makes of an edition of before; see `modelMoved`. */
export const computeMoved = ({ lock, ...today }: { lock: EditionLock } & Parameters<typeof modelMoved>[1]) =>
  modelMoved(lock, today)

export const MOVED = jobOf<typeof computeMoved>('moved')
