import { answersIn } from '@conch/core/learn'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import { InHand, type Light, type RailDrink, useInHand, useRailMenu } from '../rail/index.ts'
import { Drill } from './Drill.tsx'
import { LearnHome } from './LearnHome.tsx'
import { PourTest } from './PourTest.tsx'
import { practiceQuery } from './practice.ts'
import { useEdition } from './useEdition.ts'

/** Learning the edition, ten minutes at a time; and measuring one's own hand. */
export function LearnPage() {
  const { well } = useHouse()
  const menu = useRailMenu()
  const light = useInHand(`Learn · ${well.name}`)
  return (
    <InHand menu={menu}>
      {() => (
        <NeedShelfFor what="what they pour" documents={menu.drinks.map((d) => d.document)}>
          {() => <Learn drinks={menu.drinks} {...light} />}
        </NeedShelfFor>
      )}
    </InHand>
  )
}

function Learn({ drinks, ...light }: Light & { drinks: readonly RailDrink[] }) {
  const who = useWho()
  const edition = useEdition(drinks)
  const [isDoing, setDoing] = useState<'drill' | 'pours'>()
  const own = useQuery(practiceQuery)
  const answers = useMemo(() => answersIn(own.data ?? []), [own.data])
  // Whoever comes next has not answered what the one before was asked.
  const close = () => setDoing(undefined)
  if (isDoing === 'drill') return <Drill key={who.id} {...{ edition, answers }} onClose={close} />
  if (isDoing === 'pours') return <PourTest key={who.id} onClose={close} />
  return <LearnHome {...{ edition, own, answers }} onDo={setDoing} {...light} />
}
