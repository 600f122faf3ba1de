import { mayDo } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { useHouse } from '../app/house.tsx'
import { useWho } from '../app/who.ts'
import { useOuts } from './useOuts.ts'

/**
 * Pours a drink like this for one night, where somebody came to look for that: at the well they stand at, or at all.
 * @param words in a few words what is otherwise
 */
export function PourTonight({
  drink,
  document,
  words,
}: {
  drink: { slug: string; name: string }
  document: DrinkDocument | undefined
  words: string
}) {
  const { book, well } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const [search] = useSearchParams()
  const { choose } = useOuts()
  const [isBusy, setBusy] = useState(false)
  if (search.get('tonight') === null || !mayDo(who.role, 'chooseTonight')) return null
  const pour = async (where: string | null) => {
    if (!document) return
    setBusy(true)
    const isChosen = await choose(drink, { well: where, kind: 'instead', document, words: words.slice(0, 200) })
    setBusy(false)
    if (isChosen) navigate('/out')
  }
  const places = [{ slug: well.slug as string | null, name: `at the ${well.name}` }]
  if (book.wells.length > 1) places.push({ slug: null, name: 'everywhere' })
  return (
    <>
      {places.map(({ slug, name }) => (
        <button
          key={name}
          type="button"
          className="act act-main min-h-11"
          disabled={isBusy || !document}
          onClick={() => void pour(slug)}
        >
          Tonight {name}
        </button>
      ))}
    </>
  )
}
