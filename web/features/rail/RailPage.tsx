import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { Toaster } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { flagSchema, readStored, writeStored } from '../../app/stored.ts'
import { IDLE_LOCK_MINUTES, useIdleLock } from '../../app/useIdleLock.ts'
import { NeedShelfFor } from '../../shelf/NeedShelf.tsx'
import { wearTheme } from '../../theme/theme.ts'
import { Failure, Loading } from '../../ui/States.tsx'
import { ComputingFailure } from '../../workers/Computing.tsx'
import { AskPanel } from './AskPanel.tsx'
import { MakeRound } from './MakeRound.tsx'
import { railRound } from './railRound.ts'
import { useAwake } from './useAwake.ts'
import { useRailMenu } from './useRailMenu.ts'

const LIGHT = 'conch:rail-light'

/** Everything is as large as in a hand, on whatever screen: eleven steps are 44 px. @returns ends it */
function inTheHand(): () => void {
  const { style } = document.documentElement
  const before = style.fontSize
  style.fontSize = '16px'
  return () => {
    style.fontSize = before
  }
}

/** The view for making: dark, awake, and nothing else on it. */
export function RailPage() {
  const { book, well } = useHouse()
  const menu = useRailMenu()
  const round = railRound.use()
  const [isLight, setLight] = useState(() => readStored(LIGHT, flagSchema) ?? false)
  useAwake()
  useEffect(() => wearTheme(isLight ? 'chart' : 'lantern'), [isLight])
  useEffect(inTheHand, [])
  useIdleLock(book.settings.idleLockMinutes ?? IDLE_LOCK_MINUTES)
  useEffect(() => {
    document.title = `The rail · ${well.name}`
  }, [well.name])
  const light = (on: boolean) => {
    writeStored(LIGHT, on)
    setLight(on)
  }
  const documents = [...menu.drinks.map((d) => d.document), ...(round?.loads.map((l) => l.document) ?? [])]
  return (
    <div className="fixed inset-0 flex flex-col overflow-hidden bg-paper text-ink select-none">
      <ComputingFailure />
      {menu.error && menu.drinks.length === 0 && !round ? (
        <main>
          <Failure error={menu.error} onRetry={() => void menu.refetch()} />
          <Link to="/" className="m-6 inline-block underline">
            To the menu
          </Link>
        </main>
      ) : !menu.isReady && !round ? (
        <Loading what="what is poured here" />
      ) : (
        <NeedShelfFor what="what it pours" documents={documents}>
          {() =>
            round ? (
              <MakeRound key={round.key} round={round} />
            ) : (
              <AskPanel drinks={menu.drinks} isLight={isLight} onLight={light} />
            )
          }
        </NeedShelfFor>
      )}
      <Toaster
        position="top-center"
        toastOptions={{
          style: { background: 'var(--ink)', color: 'var(--paper)', border: 'none', borderRadius: 2, fontSize: 18 },
        }}
      />
    </div>
  )
}
