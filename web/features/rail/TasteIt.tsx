import { keysOf } from '@conch/core/schema/keysOf'
import type { RoundLoad } from '@conch/core/service'
import { NOTE_WORDS, type NoteWord } from '@conch/core/tasting'
import { useState } from 'react'
import { toast } from 'sonner'
import { sayNote } from '../../alone/sayNote.ts'

/** The note in one tap: the drink is at hand already. */
export function TasteIt({ load, well }: { load: RoundLoad; well: string }) {
  const [says, setSays] = useState<NoteWord>()
  const say = async (word: NoteWord) => {
    const before = says
    setSays(word)
    try {
      toast(
        await sayNote({
          drink: load.drink,
          number: load.version,
          name: load.document.name,
          says: word,
          // Of what was made otherwise nobody is to think that it is the spec.
          words: load.otherwise ?? '',
          well,
        }),
      )
    } catch (error) {
      setSays(before)
      toast.error((error as Error).message)
    }
  }
  return (
    <div className="mt-1">
      <p className="text-xl text-soft">{load.document.name}</p>
      <div className="flex flex-wrap gap-2">
        {keysOf(NOTE_WORDS).map((word) => (
          <button
            key={word}
            type="button"
            aria-pressed={says === word}
            className="rail-act min-h-14 px-4"
            onClick={() => void say(word)}
          >
            {NOTE_WORDS[word]}
          </button>
        ))}
      </div>
    </div>
  )
}
