/** Kept glasses that were lately read: a menu is looked at again and again, and hardly any of it changes. */

import { LRUCache } from 'lru-cache'
import { type KeptRow, keyOf, type VersionKey } from './glassStore.ts'

/** A menu of 200 at two wells, and what is looked at beside it. */
const MOST = 600

export class LatelyRead {
  private readonly rows = new LRUCache<string, Map<string, KeptRow>>({
    maxSize: MOST,
    sizeCalculation: (byWell) => byWell.size || 1,
  })
  /** What is read while something is forgotten may be from before that. */
  private timesForgotten = 0

  /**
   * The rows of these versions at these wells.
   * @param load reads the rows of versions that are not known, at these wells
   */
  async read(
    keys: readonly VersionKey[],
    wells: readonly string[],
    load: (keys: readonly VersionKey[]) => Promise<KeptRow[]>,
  ): Promise<KeptRow[]> {
    const isKnown = (key: VersionKey) => {
      const byWell = this.rows.get(keyOf(key))
      return wells.every((well) => byWell?.has(well))
    }
    const missing = keys.filter((key) => !isKnown(key))
    const known = keys.flatMap((key) => {
      const byWell = this.rows.get(keyOf(key))
      const rows = wells.flatMap((well) => byWell?.get(well) ?? [])
      return rows.length === wells.length ? rows : []
    })
    if (missing.length === 0) return known
    const { timesForgotten } = this
    const read = await load(missing)
    if (timesForgotten === this.timesForgotten) for (const row of read) this.put(row)
    return [...known, ...read]
  }

  private put(row: KeptRow): void {
    this.rows.set(keyOf(row), new Map([...(this.rows.get(keyOf(row)) ?? []), [row.well, row]]))
  }

  forget(key: VersionKey): void {
    this.timesForgotten += 1
    this.rows.delete(keyOf(key))
  }

  clear(): void {
    this.timesForgotten += 1
    this.rows.clear()
  }
}
