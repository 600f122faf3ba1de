import { shortDayText } from '@conch/core/calendar'
import type { MixFacts } from '@conch/core/house'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'

const TONES = { fresh: 'text-soft', due: 'text-mind', expired: 'text-stop font-semibold', gone: 'text-soft' }

/** The lot that is poured, and how long it may be. */
export function LotWords({ lot }: { lot: MixFacts['lot'] }) {
  const { today } = useHouse()
  if (!lot) return <span className="caption">no lot: by the recipe</span>
  // A day is not broken between two lines; that it is over may stand on the next.
  const until = lot.useBy === null ? 'no use-by' : `by ${shortDayText(lot.useBy, today)}`.replaceAll(' ', '\u00a0')
  const words = { fresh: until, due: `${until}: due`, expired: `${until}: expired`, gone: 'gone' }[lot.standing]
  return (
    <Link to={`/lots/${lot.id}`} className={`text-sm hover:underline ${TONES[lot.standing]}`}>
      lot {lot.id}, {words}
    </Link>
  )
}
