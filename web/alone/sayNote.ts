/** What somebody says of a drink on its night: two taps and a word. */

import { saidNoteSchema } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { NOTE_WORDS, type NoteWord } from '@conch/core/tasting'
import { queryClient } from '../app/queries.ts'
import { tap } from './tap.ts'

export const noteForm = formOf(saidNoteSchema)
export const notesPath = (drink: string, number: number) => `/api/drinks/${drink}/versions/${number}/notes`
export const notesKey = (drink: string, number: number) => ['notes', drink, number] as const

interface Said {
  drink: string
  number: number
  name: string
  says: NoteWord
  words: string
  well: string
}

/** @returns for whoever said it: whether the house has it, or this device keeps it. @throws ApiError with what is wrong */
export async function sayNote({ drink, number, name, says, words, well }: Said): Promise<string> {
  const said = await tap(
    {
      kind: 'note',
      path: notesPath(drink, number),
      body: { says, words, well },
      name,
      words: `${name}: ${NOTE_WORDS[says]}${words && `, “${words}”`}`,
    },
    noteForm,
  )
  await queryClient.invalidateQueries({ queryKey: notesKey(drink, number) })
  return 'kept' in said
    ? 'Kept here, and sent when the house is heard. Say it again if it was a wrong tap.'
    : 'Written down. Say it again if it was a wrong tap: of one person the last word counts.'
}
