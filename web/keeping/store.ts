/** What this device keeps for when it stands alone: answers of the house, and words that are not sent yet. */

import type { Audience } from '@conch/contract'
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'

export interface KeptAnswer {
  path: string
  audience: Audience
  answer: unknown
  /** How far the house was; null where it did not say. */
  sequence: number | null
  /** When it came, ms of this device's clock. */
  at: number
}

/** Something that was said on this device. */
export interface KeptTap {
  /** In the order in which it was said. */
  place?: number
  /** Under which the house does it once. */
  id: string
  kind: 'out' | 'outEnd' | 'note' | 'lot' | 'round' | 'practice'
  path: string
  body: unknown
  /** What it is about, as it is called. */
  name: string
  /** What it says, for a person. */
  words: string
  by: { id: number; name: string }
  /** Nobody could check that it was they. */
  isUnconfirmed: boolean
  /** ms of this device's clock. */
  at: number
  /** How far the house was when it was said; null: not known. */
  sees: number | null
  /** Why the house would not. */
  refused?: string
}

/** For whom, and of what address. */
type AnswerKey = [audience: string, path: string]

interface Kept extends DBSchema {
  answers: { key: AnswerKey; value: KeptAnswer; indexes: { at: number } }
  taps: { key: number; value: KeptTap; indexes: { id: string } }
}

let opened: Promise<IDBPDatabase<Kept>> | undefined

/** @throws where the browser keeps nothing: a forbidden or broken store */
export function openStore(): Promise<IDBPDatabase<Kept>> {
  opened ??= openDB<Kept>('conch', 1, {
    upgrade(db) {
      const answers = db.createObjectStore('answers', { keyPath: ['audience', 'path'] })
      answers.createIndex('at', 'at')
      const taps = db.createObjectStore('taps', { keyPath: 'place', autoIncrement: true })
      taps.createIndex('id', 'id', { unique: true })
    },
    // A newer page of this browser wants another form: it is not kept waiting.
    blocking: (_old, _new, event) => (event.target as IDBDatabase).close(),
    terminated: () => {
      opened = undefined
    },
  }).catch((error: unknown) => {
    opened = undefined
    throw error
  })
  return opened
}
