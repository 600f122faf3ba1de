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
  /** Pointed at: that is the answer. */
  onGiven: (given: Given) => void
  /** Put together so far; undefined: not enough to be an answer. */
  onDraft: (given: Given | undefined) => void
}

/** How a question is answered: with the jigger, in order, on a clock, by pointing; never by picking one of four sentences. */
export function Ask({ question, edition, isAnswered, onGiven, onDraft }: AskProps) {
  const { book } = useHouse()
  switch (question.kind) {
    case 'amount':
      return (
        <OnJiggers
          isAnswered={isAnswered}
          onDraft={(volumeMl) => onDraft(volumeMl > 0 ? { kind: 'amount', volumeMl } : undefined)}
        />
      )
    case 'order':
      return (
        <InOrder
          all={question.bottles}
          {...{ isAnswered }}
          onDraft={(bottles) =>
            onDraft(bottles.length === question.bottles.length ? { kind: 'order', bottles } : undefined)
          }
        />
      )
    case 'chill':
      return (
        <ByNumber
          unit="s"
          from={8}
          steps={[-5, -1, -0.5, 0.5, 1, 5]}
          {...{ isAnswered }}
          onDraft={(durationS) => onDraft({ kind: 'chill', durationS })}
        />
      )
    case 'ice':
      return (
        <ByNumber
          unit="g"
          from={100}
          steps={[-50, -10, 10, 50]}
          {...{ isAnswered }}
          onDraft={(massG) => onDraft({ kind: 'ice', massG })}
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
          onDraft={(texts) => onDraft(texts.length > 0 ? { kind: 'garnish', texts } : undefined)}
        />
      )
    case 'allergens':
      return (
        <>
          <Several
            all={ALLERGENS}
            none="none of these"
            {...{ isAnswered }}
            onDraft={(allergens) => onDraft(allergens.length > 0 ? { kind: 'allergens', allergens } : undefined)}
            onNone={() => onGiven({ kind: 'allergens', allergens: [] })}
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
          onDraft={(drinks) => onDraft(drinks.length > 0 ? { kind: 'dark', drinks } : undefined)}
        />
      )
    case 'picture': {
      const document = edition.drinks.find((d) => d.drink === question.drink)?.document
      return <ByPicture {...{ document, edition, isAnswered }} onGiven={onGiven} />
    }
  }
}

const ROW = 'mt-3 flex flex-wrap gap-2'

/** Tapped one after the other; tapped again they are taken back. */
function InOrder({
  all,
  isAnswered,
  onDraft,
}: {
  all: readonly string[]
  isAnswered: boolean
  onDraft: (order: string[]) => void
}) {
  const shown = useMemo(() => [...all].sort(), [all])
  const [order, setOrder] = useState<string[]>([])
  const tap = (name: string) => {
    const next = order.includes(name) ? order.filter((o) => o !== name) : [...order, name]
    setOrder(next)
    onDraft(next)
  }
  return (
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
  )
}

function ByNumber({
  unit,
  from,
  steps,
  isAnswered,
  onDraft,
}: {
  unit: string
  from: number
  steps: readonly number[]
  isAnswered: boolean
  onDraft: (value: number) => void
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
            onClick={() => {
              const next = Math.max(0, Number((value + step).toFixed(1)))
              setValue(next)
              onDraft(next)
            }}
          >
            {step > 0 ? `+${step}` : `−${-step}`}
          </button>
        ))}
      </div>
    </>
  )
}

function Several({
  all,
  none,
  nameOf = (x) => x,
  isAnswered,
  onDraft,
  onNone,
}: {
  all: readonly string[]
  /** What stands for nothing of it, where that is an answer. */
  none?: string
  nameOf?: (one: string) => string
  isAnswered: boolean
  onDraft: (chosen: string[]) => void
  onNone?: () => void
}) {
  const [chosen, setChosen] = useState<string[]>([])
  return (
    <div className={ROW}>
      {all.map((one) => (
        <button
          key={one}
          type="button"
          className="rail-act"
          aria-pressed={chosen.includes(one)}
          disabled={isAnswered}
          onClick={() => {
            const next = chosen.includes(one) ? chosen.filter((c) => c !== one) : [...chosen, one]
            setChosen(next)
            onDraft(next)
          }}
        >
          {nameOf(one)}
        </button>
      ))}
      {none && (
        <button type="button" className="rail-act" disabled={isAnswered || chosen.length > 0} onClick={onNone}>
          {none}
        </button>
      )}
    </div>
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
