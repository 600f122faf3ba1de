import { useHouse } from '../../app/house.tsx'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import { AskPanel } from './AskPanel.tsx'
import { InHand } from './InHand.tsx'
import { MakeRound } from './MakeRound.tsx'
import { railRound } from './railRound.ts'
import { useInHand } from './useInHand.ts'
import { useRailMenu } from './useRailMenu.ts'

/** The view for making: dark, awake, and nothing else on it. */
export function RailPage() {
  const { well } = useHouse()
  const menu = useRailMenu()
  const round = railRound.use()
  const light = useInHand(`The rail · ${well.name}`)
  const documents = [...menu.drinks.map((d) => d.document), ...(round?.loads.map((l) => l.document) ?? [])]
  return (
    <InHand menu={menu} isFree={round !== undefined}>
      {() => (
        <NeedShelfFor what="what it pours" documents={documents}>
          {() => (round ? <MakeRound key={round.key} round={round} /> : <AskPanel drinks={menu.drinks} {...light} />)}
        </NeedShelfFor>
      )}
    </InHand>
  )
}
