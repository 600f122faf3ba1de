import { eq, lt } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { keptAnswers } from '../database/schema.ts'
import { Refusal } from '../errors/Refusal.ts'

export interface Answer {
  status: number
  answer: unknown
}

/** What a key looks like: made by the one who asks, and no other request has it. */
const KEY = /^[\w-]{8,100}$/

/**
 * Does a write once, however often it is sent under one key: the second time the first answer is given again.
 * Inside the write's own transaction, so that either both are there or neither.
 * @param request who asked for what, hashed
 * @throws Refusal when the key came with another request before
 */
export async function answerOnce(
  db: Database,
  { key, request, at }: { key: string; request: string; at: Date },
  work: () => Promise<Answer>,
): Promise<Answer> {
  if (!KEY.test(key)) {
    const message = `“${key.slice(0, 40)}” is no key; send 8 to 100 letters, digits, - or _`
    throw new Refusal('invalid', `idempotency-key: ${message}`, { fields: [{ field: 'idempotency-key', message }] })
  }
  const [kept] = await db.select().from(keptAnswers).where(eq(keptAnswers.key, key))
  if (kept && kept.request !== request) {
    const message = 'came with another request before; make a new one for each thing you do'
    throw new Refusal('invalid', `idempotency-key ${message}`, { fields: [{ field: 'idempotency-key', message }] })
  }
  if (kept) return { status: kept.status, answer: kept.answer }
  const made = await work()
  await db.insert(keptAnswers).values({ key, request, ...made, at })
  return made
}

/** Days after which nobody sends the same again. */
const KEPT_DAYS = 3

export async function clearKeptAnswers(db: Database, now: Date): Promise<void> {
  await db.delete(keptAnswers).where(lt(keptAnswers.at, new Date(now.getTime() - KEPT_DAYS * 86_400_000)))
}
