import { drinkSchema } from '@conch/contract'
import { fillWithIce } from '@conch/core/means'
import { type ReadSpec, readSpec, shippedRange } from '@conch/core/reading'
import { formOf } from '@conch/core/schema'
import { useQueryClient } from '@tanstack/react-query'
import { useId, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { ApiError, api } from '../../app/api.ts'
import { useHouse } from '../../app/house.tsx'
import { DRINKS_KEY } from '../../app/queries.ts'
import { useShelfFor, useShelfForWords } from '../../app/shelf.ts'
import { useFruitMl } from '../../shelf/useFruitMl.ts'
import { useUsual } from '../../shelf/useUsual.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Field } from '../../ui/Field.tsx'
import { useSettled } from '../../ui/useSettled.ts'
import { type DrinkIn, FoundVersion } from './FoundVersion.tsx'
import { ForHowMany, ReadMethod, SourceMeasures, Unplaced } from './PasteParts.tsx'
import { type Answer, type Choices, keyOf, openQuestions, servesOf, toDocument, writtenOf } from './pastedDrink.ts'
import { ReadRow } from './ReadRow.tsx'

const EXAMPLE = `Harbour Bell
1 1/2 oz gold rum
22,5 ml / ¾ oz lime
half oz orgeat
2-3 dashes bitters
Flash blend with crushed ice for 4 seconds, open pour
Garnish: mint`

const TYPING_MS = 200

/** What stands in the text, line by line, with what its lines may mean looked for on the shelf. */
function useReadSpec(text: string) {
  const { book, well } = useHouse()
  const fruitMl = useFruitMl()
  // What its lines may mean is looked for on the shelf first.
  const settled = useSettled(text, TYPING_MS)
  const lines = useMemo(
    () => readSpec(settled, { book, usual: shippedRange, fruitMl, well: well.slug }).lines.map((l) => l.words),
    [settled, book, fruitMl, well.slug],
  )
  const isLookedFor = useShelfForWords(lines) && settled === text
  // What is usual is asked of whatever a line may mean.
  const meant = useMemo(
    () =>
      readSpec(text, { book, usual: shippedRange, fruitMl, well: well.slug }).lines.flatMap((l) => [
        l.sure,
        ...l.matches.map((m) => m.slug),
      ]),
    [text, book, fruitMl, well.slug],
  )
  const usual = useUsual(meant)
  const spec = useMemo(
    () => readSpec(text, { book, usual, fruitMl, well: well.slug }),
    [text, book, usual, fruitMl, well.slug],
  )
  return { spec, usual, isLookedFor }
}

/** The drink that begins as this. */
function useReadDocument(spec: ReadSpec, name: string, choices: Choices) {
  const { book, well } = useHouse()
  const document = useMemo(
    () =>
      toDocument(spec, name, choices, book.settings.kit, (d, ice) =>
        ice.fill ? fillWithIce(d, book, well.slug, ice.kind, ice.fill) : { ok: false, reason: '' },
      ),
    [spec, name, choices, book, well.slug],
  )
  // Ice up to a line is solved for what is poured: nothing begins before all of that is known.
  const { isReady } = useShelfFor([document])
  return { document, isReady }
}

interface PasteSpecProps {
  /** It is a version of this drink, from a source; left out: a new drink, or whatever one says. */
  into?: DrinkIn
  onClose: () => void
}

/** A recipe pasted as text: every line is read as it stands, matched, or asks. */
export function PasteSpec({ into, onClose }: PasteSpecProps) {
  const [text, setText] = useState('')
  const [choices, setChoices] = useState<Choices>({ answers: {}, leftovers: {} })
  const [name, setName] = useState<string>()
  const [error, setError] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  const [isFound, setFound] = useState(into !== undefined)
  const formId = useId()
  const navigate = useNavigate()
  const queryClient = useQueryClient()
  const { spec, usual, isLookedFor } = useReadSpec(text)
  const choose = (change: Partial<Choices>) => setChoices({ ...choices, ...change })
  const answer = (key: string, change: Answer) =>
    choose({ answers: { ...choices.answers, [key]: { ...choices.answers[key], ...change } } })
  const open = openQuestions(spec, choices)
  const shownName = name ?? spec.name ?? ''
  const serves = servesOf(spec, choices)
  const { document, isReady } = useReadDocument(spec, shownName, choices)
  const canBegin = document !== undefined && isLookedFor && isReady && open.length === 0
  const begin = async () => {
    if (!canBegin) return
    if (shownName.trim() === '') return setError('Give it a name; it can be changed later.')
    setBusy(true)
    try {
      const drink = await api.post('/api/drinks', formOf(drinkSchema), { name: shownName, document })
      await queryClient.invalidateQueries({ queryKey: DRINKS_KEY })
      navigate(`/drinks/${drink.slug}`)
    } catch (e) {
      setError(e instanceof ApiError ? e.message : String(e))
    } finally {
      setBusy(false)
    }
  }
  return (
    <Dialog
      isOpen
      onClose={onClose}
      width={980}
      title="A spec from somewhere"
      lead="Paste it as it is written. Nothing is changed or dropped silently: what does not fit is marked, and you decide."
    >
      <div className="grid gap-x-6 gap-y-3 md:grid-cols-[20rem_minmax(0,1fr)]">
        <div>
          <textarea
            aria-label="The spec as text"
            className="field min-h-64 font-text"
            placeholder={EXAMPLE}
            value={text}
            onChange={(e) => {
              setText(e.target.value)
              setError(undefined)
            }}
          />
          <SourceMeasures spec={spec} choices={choices} onChange={(sourceKit) => choose({ sourceKit })} />
        </div>
        <div>
          {spec.lines.length + spec.unplaced.length === 0 ? (
            <p className="text-soft">What is read appears here, line by line.</p>
          ) : (
            <>
              <Field label="Name" error={error}>
                {(props) => (
                  <input {...props} maxLength={120} value={shownName} onChange={(e) => setName(e.target.value)} />
                )}
              </Field>
              <ol aria-label="What was read">
                {spec.lines.map((line, i) => {
                  const key = keyOf(spec.lines, i)
                  return (
                    <ReadRow
                      key={key}
                      line={line}
                      serves={serves}
                      usual={usual}
                      answer={choices.answers[key]}
                      onAnswer={(change) => answer(key, change)}
                    />
                  )
                })}
              </ol>
              {(serves > 1 || spec.servesUpTo !== undefined) && (
                <ForHowMany spec={spec} choices={choices} onChange={choose} />
              )}
              <ReadMethod spec={spec} document={document} onGlass={(glass) => choose({ glass })} />
              <Unplaced spec={spec} choices={choices} onChange={(leftovers) => choose({ leftovers })} />
            </>
          )}
        </div>
      </div>
      {isFound && (
        <FoundVersion
          formId={formId}
          document={document}
          name={shownName}
          into={into}
          written={writtenOf(text, serves, choices)}
          onDone={onClose}
        />
      )}
      <div className="mt-4 flex flex-wrap items-center justify-end gap-3">
        <span role="status" className="mr-auto text-sm text-mind">
          {open.length > 0 && `${open.length} ${open.length === 1 ? 'line asks' : 'lines ask'} something`}
        </span>
        {!into && (
          <label className="flex min-h-9 items-center gap-2">
            <input type="checkbox" checked={isFound} onChange={(e) => setFound(e.target.checked)} />
            it is from a source: keep it as it is there
          </label>
        )}
        <button type="button" className="act" onClick={onClose}>
          Not yet
        </button>
        {isFound ? (
          <button type="submit" form={formId} className="act act-main" disabled={!canBegin}>
            Keep it as historical
          </button>
        ) : (
          <button type="button" className="act act-main" disabled={!canBegin || isBusy} onClick={begin}>
            Begin with this
          </button>
        )}
      </div>
    </Dialog>
  )
}
