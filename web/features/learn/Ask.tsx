import { ALLERGENS, bySlug, SAFETY_DEFERRAL } from '@conch/core/house'
import type { Given, Question } from '@conch/core/learn'
import { useMemo, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { GlassSection } from '../../graphics/GlassSection.tsx'
import { VesselOutline } from '../../graphics/VesselOutline.tsx'
import { useGlass } from '../../workers/compute.ts'
import { OnJiggers } from './OnJiggers.tsx'
import type { Edition } from './useEdition.ts'

interface AskProps {
  question: Question
  edition: Edition
  isAnswered: boolean
  onGiven: (given: Given) => void
}

/** How a question is answered: with the jigger, in order, on a clock, by pointing; never by picking one of four sentences. */
export function Ask({ question, edition, isAnswered, onGiven }: AskProps) {
  const { book, well } = useHouse()
  switch (question.kind) {
    case 'amount':
      return <OnJiggers isAnswered={isAnswered} onGiven={(volumeMl) => onGiven({ kind: 'amount', volumeMl })} />
    case 'order':
      return (
        <InOrder
          all={question.bottles}
          {...{ isAnswered }}
          onGiven={(bottles) => onGiven({ kind: 'order', bottles })}
        />
      )
    case 'chill':
      return (
        <ByNumber
          unit="s"
          from={8}
          steps={[-5, -1, -0.5, 0.5, 1, 5]}
          {...{ isAnswered }}
          onGiven={(durationS) => onGiven({ kind: 'chill', durationS })}
        />
      )
    case 'ice':
      return (
        <ByNumber
          unit="g"
          from={100}
          steps={[-50, -10, 10, 50]}
          {...{ isAnswered }}
          onGiven={(massG) => onGiven({ kind: 'ice', massG })}
        />
      )
    case 'glass':
      return (
        <div className="mt-3 flex flex-wrap items-end gap-2">
          {book.glasses.map((g) => (
            <button
              key={g.slug}
              type="button"
              className="rail-act flex-col justify-end py-2 text-base"
              disabled={isAnswered}
              onClick={() => onGiven({ kind: 'glass', glass: g.slug })}
            >
              <VesselOutline profile={g.profile} stemMm={g.stemMm} pxPerMm={0.55} />
              {g.name}
            </button>
          ))}
        </div>
      )
    case 'garnish':
      return (
        <Several
          all={[...new Set(edition.questions.flatMap((q) => (q.kind === 'garnish' ? q.texts : [])))].sort()}
          {...{ isAnswered }}
          onGiven={(texts) => onGiven({ kind: 'garnish', texts })}
        />
      )
    case 'allergens':
      return (
        <>
          <Several
            all={ALLERGENS}
            none="none of these"
            {...{ isAnswered }}
            onGiven={(allergens) => onGiven({ kind: 'allergens', allergens })}
          />
          <p className="mt-2 text-base text-soft">{SAFETY_DEFERRAL}</p>
        </>
      )
    case 'dark':
      return (
        <Several
          all={edition.drinks.map((d) => d.drink)}
          nameOf={(slug) => edition.drinks.find((d) => d.drink === slug)?.name ?? slug}
          {...{ isAnswered }}
          onGiven={(drinks) => onGiven({ kind: 'dark', drinks })}
        />
      )
    case 'picture': {
      const document = edition.drinks.find((d) => d.drink === question.drink)?.document
      return <ByPicture {...{ document, edition, isAnswered, book, well: well.slug }} onGiven={onGiven} />
    }
  }
}

const ROW = 'mt-3 flex flex-wrap gap-2'

/** Tapped one after the other; tapped again they are taken back. */
function InOrder({
  all,
  isAnswered,
  onGiven,
}: {
  all: readonly string[]
  isAnswered: boolean
  onGiven: (order: string[]) => void
}) {
  const shown = useMemo(() => [...all].sort(), [all])
  const [order, setOrder] = useState<string[]>([])
  const tap = (name: string) => setOrder(order.includes(name) ? order.filter((o) => o !== name) : [...order, name])
  return (
    <>
      <div className={ROW}>
        {shown.map((name) => {
          const at = order.indexOf(name)
          return (
            <button
              key={name}
              type="button"
              className="rail-act"
              aria-pressed={at >= 0}
              disabled={isAnswered}
              onClick={() => tap(name)}
            >
              {at >= 0 && <b className="font-display text-2xl">{at + 1}</b>}
              {name}
            </button>
          )
        })}
      </div>
      <ThatsIt isReady={order.length === all.length && !isAnswered} onDone={() => onGiven(order)} />
    </>
  )
}

function ByNumber({
  unit,
  from,
  steps,
  isAnswered,
  onGiven,
}: {
  unit: string
  from: number
  steps: readonly number[]
  isAnswered: boolean
  onGiven: (value: number) => void
}) {
  const [value, setValue] = useState(from)
  return (
    <>
      <p className="rail-amount mt-2" role="status">
        {value} {unit}
      </p>
      <div className={ROW}>
        {steps.map((step) => (
          <button
            key={step}
            type="button"
            className="rail-act min-w-20 text-2xl"
            disabled={isAnswered}
            onClick={() => setValue(Math.max(0, Number((value + step).toFixed(1))))}
          >
            {step > 0 ? `+${step}` : `−${-step}`}
          </button>
        ))}
      </div>
      <ThatsIt isReady={!isAnswered} onDone={() => onGiven(value)} />
    </>
  )
}

function Several({
  all,
  none,
  nameOf = (x) => x,
  isAnswered,
  onGiven,
}: {
  all: readonly string[]
  /** What stands for nothing of it, where that is an answer. */
  none?: string
  nameOf?: (one: string) => string
  isAnswered: boolean
  onGiven: (chosen: string[]) => void
}) {
  const [chosen, setChosen] = useState<string[]>([])
  return (
    <>
      <div className={ROW}>
        {all.map((one) => (
          <button
            key={one}
            type="button"
            className="rail-act"
            aria-pressed={chosen.includes(one)}
            disabled={isAnswered}
            onClick={() => setChosen(chosen.includes(one) ? chosen.filter((c) => c !== one) : [...chosen, one])}
          >
            {nameOf(one)}
          </button>
        ))}
        {none && (
          <button
            type="button"
            className="rail-act"
            disabled={isAnswered || chosen.length > 0}
            onClick={() => onGiven([])}
          >
            {none}
          </button>
        )}
      </div>
      <ThatsIt isReady={chosen.length > 0 && !isAnswered} onDone={() => onGiven(chosen)} />
    </>
  )
}

function ByPicture({
  document,
  edition,
  isAnswered,
  onGiven,
}: {
  document: Edition['drinks'][number]['document'] | undefined
  edition: Edition
  isAnswered: boolean
  onGiven: (given: Given) => void
}) {
  const { book, well } = useHouse()
  const made = useGlass(document, book, well.slug)
  const glass = made?.ok ? made.result.glass : undefined
  const vessel = bySlug(book.glasses, document?.glassByWell?.[well.slug] ?? document?.glass)
  return (
    <div className="mt-2 flex gap-4">
      <div className="w-52 shrink-0 max-sm:w-28">
        {glass && vessel && (
          <GlassSection
            profile={vessel.profile}
            stemMm={vessel.stemMm}
            glass={glass}
            height={300}
            maxWidth={200}
            hasLabels={false}
          />
        )}
      </div>
      <div className="flex flex-wrap content-start gap-2">
        {edition.drinks.map((d) => (
          <button
            key={d.drink}
            type="button"
            className="rail-act"
            disabled={isAnswered}
            onClick={() => onGiven({ kind: 'picture', drink: d.drink })}
          >
            {d.name}
          </button>
        ))}
      </div>
    </div>
  )
}

export function ThatsIt({ isReady, onDone }: { isReady: boolean; onDone: () => void }) {
  return (
    <button type="button" className="rail-act mt-3 self-start border-ink px-10" disabled={!isReady} onClick={onDone}>
      That is it
    </button>
  )
}
