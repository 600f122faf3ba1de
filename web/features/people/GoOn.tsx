import { goOn } from '../../app/signingIn.ts'
import { useWho } from '../../app/who.ts'
import { NameList } from './NameList.tsx'
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
      <NameList
        people={people}
        onPick={(person) => {
          goOn(person)
          onIn()
        }}
      />
    </>
  )
}
