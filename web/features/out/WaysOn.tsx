import type { DrinkAtWell } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery } from '../../app/queries.ts'
import { useOuts } from '../../outs/index.ts'
import { insteadAddress } from '../../outs/waysOn.ts'

/** What a lead can do about a drink that is dark. */
export function WaysOn({ drink, at }: { drink: { slug: string; name: string; version: number }; at: DrinkAtWell }) {
  const { book, well } = useHouse()
  const { choose } = useOuts()
  const { slug, name, version } = drink
  const document = useQuery(drinkQuery(slug)).data?.versions.find((v) => v.number === version)?.document
  const address = insteadAddress(slug, version, document, at, well.slug)
  const off = (where: string | null) => void choose({ slug, name }, { well: where, kind: 'off', words: '' })
  return (
    <p className="mt-1 flex flex-wrap gap-2">
      {address && (
        <Link className="act act-main min-h-11 text-sm" to={address}>
          {at.missing[0]?.kind === 'glass' ? 'In another glass …' : `Instead of ${at.missing[0]?.name} …`}
        </Link>
      )}
      <button type="button" className="act min-h-11 text-sm" onClick={() => off(well.slug)}>
        Off at the {well.name}
      </button>
      {book.wells.length > 1 && (
        <button type="button" className="act min-h-11 text-sm" onClick={() => off(null)}>
          Off everywhere
        </button>
      )}
    </p>
  )
}
