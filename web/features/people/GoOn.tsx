import { ROLES } from '@conch/contract'
import { goOn } from '../../app/signingIn.ts'
import { useWho } from '../../app/who.ts'
import { readNames } from './namesHere.ts'

/** While the house is away nobody can look at a PIN: whoever goes on says who they are, and is believed when it is back. */
export function GoOn({ onIn }: { onIn: () => void }) {
  const who = useWho()
  const known = readNames()
  const people = known.some((p) => p.id === who.id) ? known : [who, ...known]
  return (
    <>
      <p className="mb-3">
        The house is away, and no PIN is kept on this device: nobody can look whether it is you. Tap your name and go
        on: the cards stay, and what you tap waits here, <b className="font-semibold">unconfirmed</b>, until you have
        said your PIN.
      </p>
      <ul className="border-t border-hair">
        {people.map((p) => (
          <li key={p.id} className="border-b border-hair">
            <button
              type="button"
              className="flex min-h-14 w-full flex-wrap items-baseline gap-x-3 px-2 py-3 text-left hover:bg-shoal"
              onClick={() => {
                goOn(p)
                onIn()
              }}
            >
              <span className="min-w-0 flex-1 font-display text-xl break-words">{p.name}</span>
              <span className="text-soft">{ROLES[p.role]}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  )
}
