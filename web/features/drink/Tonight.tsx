import { type Drink, mayDo } from '@conch/contract'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { saidWords, standsWords, useOuts, useStands } from '../../outs/index.ts'
import { insteadAddress } from '../../outs/waysOn.ts'

/** What is otherwise about a poured drink tonight, at the well one stands at; nothing where it is simply made. */
export function Tonight({ drink, isShown }: { drink: Drink; isShown: boolean }) {
  const { well, clock } = useHouse()
  const { tonight } = useOuts()
  const mayChoose = mayDo(useWho().role, 'chooseTonight')
  const { at, choice } = useStands(drink.slug, well.slug)
  const words = standsWords(at, choice)
  if (!tonight || !at || words === undefined || !drink.poured) return null
  const { version } = drink.poured
  const isDark = at.state === 'dark' || at.state === 'off'
  const document = drink.versions.find((v) => v.number === version)?.document
  const address = insteadAddress(drink.slug, version, document, at, well.slug)
  return (
    <p
      role="status"
      data-tonight={at.state}
      className={`mb-2 flex flex-wrap items-baseline gap-x-3 border-l-4 pl-3 ${isDark ? 'border-stop' : 'border-mind'}`}
    >
      <span className={isDark ? 'text-stop' : ''}>
        <b className="font-semibold">
          {isDark ? 'Dark' : 'Tonight'} at the {well.name}:
        </b>{' '}
        {words.replace(/^tonight /, '')}
        {choice && <span className="text-soft"> ({saidWords(choice, clock, tonight.night)})</span>}
      </span>
      {at.state === 'instead' && !isShown && (
        <Link className="underline" to="?v=tonight">
          How it is made tonight
        </Link>
      )}
      {isShown && (
        <Link className="underline" to={`?v=${version}`}>
          As it is written
        </Link>
      )}
      {mayChoose && at.state === 'dark' && !choice && address && (
        <Link className="underline" to={address}>
          Something instead …
        </Link>
      )}
      <Link className="underline" to="/out">
        What is out
      </Link>
    </p>
  )
}
