import type { SaidNoteRow } from '@conch/contract'
import { type DrinkDocument, pouredIn, resolveDrink } from '@conch/core/drink'
import type { TasteNote } from '@conch/core/tasting'
import { type Actor, stampOf } from '../../access/actor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, bookFor, type HeldHouse, heldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { loadVersionsOf } from '../../stores/drinks.ts'
import { insertNote, loadNotes } from '../../stores/notes.ts'

interface Of {
  slug: string
  number: number
}

export const showNotes = ({ slug, number }: Of, { database: { db } }: Pick<Services, 'database'>) =>
  loadNotes(db, slug, number)

async function getDocument(db: Write['db'], { slug, number }: Of): Promise<DrinkDocument> {
  const found = (await loadVersionsOf(db, [{ drink: slug, version: number }])).get(`${slug} ${number}`)
  if (!found) throw new Refusal('notFound', `there is no version ${number} of “${slug}”`)
  return found.document
}

/** What was in it that night: the lots that stand for what it pours, and the stations that make it. */
function tonight(document: DrinkDocument, well: string, held: HeldHouse, now: Date) {
  const book = bookFor(held, [document], now)
  const lots = [...pouredIn([document], baseOf(held).slots)].flatMap((slug) => book.mixes?.[slug]?.lot?.id ?? [])
  const resolved = resolveDrink(document, book, well)
  const stations = resolved.ok ? resolved.drink.stages.flatMap((s) => s.station ?? []) : []
  return { lots: [...new Set(lots)].slice(0, 40), stations: [...new Set(stations)].slice(0, 10) }
}

/** Writes down what somebody says of a drink, with what was in it. */
export async function sayNote(
  of: Of,
  { says, words, well }: Pick<Extract<TasteNote, { kind: 'note' }>, 'says' | 'words' | 'well'>,
  actor: Actor,
  write: Write,
): Promise<SaidNoteRow> {
  const { db: tx, now, late } = write
  const document = await getDocument(tx, of)
  const held = await heldHouse(tx)
  if (!baseOf(held).wells.some((w) => w.slug === well)) throw invalid('well', `there is no well “${well}”`)
  const inIt = tonight(document, well, held, late?.at ?? now())
  const saidAt = late && { saidAt: late.at.toISOString() }
  return writeNote(of, { kind: 'note', says, words, well, ...inIt, ...saidAt }, actor, write)
}

/** What became of what the notes asked for: taken or not, with a word. What was said before it is answered. */
export async function answerNotes(
  of: Of,
  answer: Omit<Extract<TasteNote, { kind: 'answer' }>, 'kind'>,
  actor: Actor,
  write: Write,
): Promise<SaidNoteRow> {
  await getDocument(write.db, of)
  return writeNote(of, { kind: 'answer', ...answer }, actor, write)
}

async function writeNote(
  { slug: drink, number }: Of,
  document: TasteNote,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<SaidNoteRow> {
  const stamp = stampOf(actor, now())
  const id = await insertNote(tx, { drink, number, document, ...stamp })
  const verb = document.kind === 'note' ? 'tasted' : 'answered'
  const detail =
    document.kind === 'note'
      ? { number, says: document.says, well: document.well }
      : { number, isTaken: document.isTaken }
  record({ kind: 'note', subject: drink, verb, detail, kept: [['taste_notes', id]] })
  return { id, drink, number, document, savedBy: stamp.savedBy, savedAt: stamp.savedAt.toISOString() }
}
