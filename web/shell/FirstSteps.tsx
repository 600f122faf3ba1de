import { type Act, mayDo } from '@conch/contract'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { useHouse } from '../app/house.tsx'
import { pouredMenuQuery } from '../app/queries.ts'
import { useWho } from '../app/who.ts'
import { tell, useTold } from './told.ts'

const TOLD = 'first steps'

interface Step {
  at: (drink: string) => string
  title: string
  text: string
  /** What of the page is meant. */
  shows: string
  /** What answers stands on the right: the words go to the left. */
  isLeft?: true
  /** Only for whoever may. */
  act?: Act
}

const STEPS: readonly Step[] = [
  {
    at: () => '/',
    title: 'This is tonight’s menu',
    text: 'Each line is a promise about the glass. The band is what the house wants in it; the mark is what would be in it now, at the well you stand at. Rest on any mark: it says what it is.',
    shows: 'main section li',
  },
  {
    at: (drink) => `/drinks/${drink}`,
    title: 'This is a drink',
    text: 'What is poured, and beside it the glass that comes of it. Press “Change”, then any amount, and type or press the arrow keys: the glass answers at once.',
    shows: '[data-first-step="change"]',
    isLeft: true,
    act: 'saveDraft',
  },
  {
    at: (drink) => `/drinks/${drink}`,
    title: 'Keep it as a version',
    text: 'Nothing is kept until you save it as a version, with a reason. The versions before stay as they were; each is a column of the strip under the name.',
    shows: '[data-first-step="save"], [data-first-step="versions"]',
    isLeft: true,
    act: 'saveVersion',
  },
  {
    at: () => '/next',
    title: 'Plan the next edition',
    text: 'A version that was saved stands here, ready for the next menu. Move drinks and chapters by the six dots; on the right stands what would change.',
    shows: '[data-first-step="plan"]',
    act: 'planMenu',
  },
  {
    at: () => '/next',
    title: 'Publish it',
    text: 'Publishing freezes every version, blend and figure, for ever; from then on that is what the menu pours. That is all: write, save, plan, publish.',
    shows: '[data-first-step="publish"]',
    act: 'publishEdition',
  },
]

/** Where a thing is on the screen, looked up while it may move. */
function useBox(selector: string | undefined): DOMRect | undefined {
  const [box, setBox] = useState<DOMRect>()
  useEffect(() => {
    const look = () => {
      const found = selector ? document.querySelector(selector)?.getBoundingClientRect() : undefined
      setBox((before) =>
        JSON.stringify(before) === JSON.stringify(found) ? before : found && found.width > 0 ? found : undefined,
      )
    }
    look()
    const timer = setInterval(look, 200)
    return () => clearInterval(timer)
  }, [selector])
  return box
}

/** Whether somebody is walked through the demo now. */
export function useIsWalked(): boolean {
  const { house } = useHouse()
  const isTold = useTold(TOLD)
  return house.isDemo && !isTold
}

/** The demo walks whoever comes for the first time through it, in five steps; it can be left at any of them. */
export function FirstSteps() {
  return useIsWalked() ? <Walk /> : null
}

function Walk() {
  const { well } = useHouse()
  const { role } = useWho()
  const navigate = useNavigate()
  const [at, setAt] = useState(0)
  const menu = useQuery(pouredMenuQuery(well.slug)).data
  const drink = menu?.chapters[0]?.drinks[0]?.drink
  const steps = STEPS.filter((s) => s.act === undefined || mayDo(role, s.act))
  const step = steps[at]
  const box = useBox(step?.shows)
  if (!step || !drink) return null
  const go = (to: number) => {
    const next = steps[to]
    if (!next) return tell(TOLD)
    setAt(to)
    navigate(next.at(drink))
  }
  return (
    <>
      {box && (
        <div
          aria-hidden="true"
          className="no-print pointer-events-none fixed z-30 border-2 border-standard"
          style={{ left: box.left - 4, top: box.top - 4, width: box.width + 8, height: box.height + 8 }}
        />
      )}
      <section
        aria-label="First steps"
        className={`no-print fixed bottom-4 z-30 w-88 border-2 border-standard bg-paper p-4 max-lg:bottom-16 max-sm:inset-x-2 max-sm:w-auto ${step.isLeft ? 'left-4' : 'right-4'}`}
      >
        <p className="caption">
          {at + 1} of {steps.length}
        </p>
        <h2 className="text-lg">{step.title}</h2>
        <p className="mt-1">{step.text}</p>
        <p className="mt-3 flex gap-2">
          <button type="button" className="act act-quiet mr-auto max-sm:min-h-11" onClick={() => tell(TOLD)}>
            Look around alone
          </button>
          {at > 0 && (
            <button type="button" className="act max-sm:min-h-11" onClick={() => go(at - 1)}>
              Back
            </button>
          )}
          <button type="button" className="act act-main max-sm:min-h-11" onClick={() => go(at + 1)}>
            {at + 1 === steps.length ? 'Done' : 'Next'}
          </button>
        </p>
      </section>
    </>
  )
}
