/** Whether a newer version of the pages is here, and how it is taken. */

import { followed } from '../ui/followed.ts'

/** Loads the newer version; undefined where there is none. */
const take = followed<{ take: () => Promise<void> } | undefined>(undefined)

export const setNewer = (how: () => Promise<void>): void => take.set({ take: how })
export const useNewer = (): (() => Promise<void>) | undefined => take.use()?.take
