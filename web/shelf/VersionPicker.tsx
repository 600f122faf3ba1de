import type { VersionKey } from '@conch/core/lineage'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { drinkQuery } from '../app/queries.ts'
import { DrinkPicker } from './DrinkPicker.tsx'

interface VersionPickerProps {
  /** The drink that is offered first. */
  drink: { slug: string; name: string }
  /** Versions that are not offered. */
  without: readonly VersionKey[]
  /** What taking one is called. */
  main: string
  onPick: (key: VersionKey, words: string) => void
}

/** Chooses a version: a drink, then which of its versions. */
export function VersionPicker({ drink, without, main, onPick }: VersionPickerProps) {
  const [chosen, setChosen] = useState(drink)
  const [number, setNumber] = useState<number>()
  const versions = useQuery(drinkQuery(chosen.slug)).data?.versions ?? []
  const offered = versions.filter((v) => !without.some((w) => w.drink === chosen.slug && w.version === v.number))
  const picked = offered.find((v) => v.number === number) ?? offered[0]
  return (
    <div className="flex flex-wrap items-center gap-2">
      <DrinkPicker
        label="Find a drink"
        onPick={({ slug, name }) => {
          setChosen({ slug, name })
          setNumber(undefined)
        }}
      >
        <button type="button" className="act min-h-9 max-w-full truncate">
          {chosen.name}
        </button>
      </DrinkPicker>
      {picked ? (
        <>
          <select
            aria-label="Which version"
            className="field w-auto max-w-52"
            value={picked.number}
            onChange={(e) => setNumber(Number(e.target.value))}
          >
            {offered.map((v) => (
              <option key={v.number} value={v.number}>
                v{v.number} {v.label || v.era}
              </option>
            ))}
          </select>
          <button
            type="button"
            className="act"
            onClick={() => onPick({ drink: chosen.slug, version: picked.number }, `${chosen.name} v${picked.number}`)}
          >
            {main}
          </button>
        </>
      ) : (
        <span className="caption">no other version</span>
      )}
    </div>
  )
}
