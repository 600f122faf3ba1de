import { type IcePortion, METHODS, type Method, POURS, type Pour } from '@conch/core/cold'
import type { DrinkDocument, Stage } from '@conch/core/drink'
import { bySlug } from '@conch/core/house'
import { scaleServes } from '@conch/core/means'
import { keysOf } from '@conch/core/schema/keysOf'
import { RANGES } from '@conch/core/schema/ranges'
import { useState } from 'react'
import { NumberField } from '../../ui/NumberField.tsx'
import * as edits from './edits.ts'
import { Garnish } from './Garnish.tsx'
import { IceList } from './IceList.tsx'
import { iceContextOf } from './iceContext.ts'
import type { SpecSheetProps } from './specSheetProps.ts'

/** Chill, glass and finish, each a sentence with its numbers where they stand. */
export function MethodLines({ document, book, well, onChange }: SpecSheetProps) {
  const isFirstWell = book.wells[0]?.slug === well.slug
  const glassSlug = edits.glassAt(document, well.slug)
  const glass = bySlug(book.glasses, glassSlug)
  const noGlassWords = document.glassProfile
    ? 'own profile'
    : glassSlug
      ? `“${glassSlug}”, not in the house`
      : 'no glass'
  const serveIce = edits.serveIceAt(document, well.slug)
  return (
    <dl className="mt-3 grid grid-cols-[4.500rem_minmax(0,1fr)] items-baseline gap-x-3 gap-y-1.5 [&>dt]:text-right [&>dt]:text-sm [&>dt]:text-soft">
      {document.stages.map((stage, index) => (
        <StageLine key={index} {...{ document, stage, index, well, book, onChange }} isFirstWell={isFirstWell} />
      ))}
      {document.stages.length === 0 && (
        <>
          <dt>chill</dt>
          <dd>
            none
            {onChange && (
              <button
                type="button"
                className="act act-quiet ml-2"
                onClick={() => onChange({ ...document, stages: [{ method: 'crushedShake' }] })}
              >
                Add a stage
              </button>
            )}
          </dd>
        </>
      )}
      <dt>glass</dt>
      <dd className="flex flex-wrap items-baseline gap-x-2">
        {onChange ? (
          <select
            aria-label="Glass"
            className="inplace"
            value={glassSlug ?? ''}
            onChange={(e) => onChange(edits.changeGlassAt(document, well.slug, isFirstWell, e.target.value))}
          >
            {!glass && <option value={glassSlug ?? ''}>{noGlassWords}</option>}
            {book.glasses.map((g) => (
              <option key={g.slug} value={g.slug}>
                {g.name}
              </option>
            ))}
          </select>
        ) : (
          <span>{glass?.name ?? noGlassWords}</span>
        )}
        {serveIce.length > 0 ? <span className="text-soft">with</span> : <span className="text-soft">no more ice</span>}
        <IceList
          ice={serveIce}
          label="serving ice"
          context={iceContextOf(document, book, well, 'glass')}
          onChange={onChange && ((ice) => onChange(edits.changeServeIceAt(document, well.slug, ice)))}
        />
        {document.serves > 1 || onChange ? (
          <span className="text-soft">
            · serves{' '}
            <NumberField
              label="Serves"
              value={document.serves}
              {...RANGES.serves}
              digits={0}
              isReadOnly={!onChange}
              onChange={(serves) => onChange?.({ ...document, serves: Math.round(serves) })}
            />{' '}
            {onChange && <ScaleTo document={document} onChange={onChange} />}
          </span>
        ) : null}
      </dd>
      <dt>finish</dt>
      <dd>
        <Garnish document={document} onChange={onChange} />
      </dd>
      {(document.note || onChange) && (
        <>
          <dt>note</dt>
          <dd>
            {onChange ? (
              <input
                className="inplace w-full"
                aria-label="Note"
                maxLength={2000}
                placeholder="what the next one should know"
                value={document.note ?? ''}
                onChange={(e) => onChange({ ...document, note: e.target.value || undefined })}
              />
            ) : (
              document.note
            )}
          </dd>
        </>
      )}
    </dl>
  )
}

const BOWLS = [2, 3, 4, 6, 8, 10, 12]

/** The whole spec for another number of guests: one serve out of a bowl, or a bowl for some. */
function ScaleTo({ document, onChange }: { document: DrinkDocument; onChange: (d: DrinkDocument) => void }) {
  return (
    <select
      aria-label="Scale everything"
      className="inplace"
      value=""
      onChange={(e) => {
        if (e.target.value) onChange(scaleServes(document, Number(e.target.value)))
      }}
    >
      <option value="">scale to …</option>
      {document.serves > 1 && <option value={1}>one serve</option>}
      {BOWLS.filter((n) => n !== document.serves).map((n) => (
        <option key={n} value={n}>
          a bowl for {n}
        </option>
      ))}
    </select>
  )
}

/** Speed, bursts and whether the ice waits: said only where it is not the usual, unless one changes it. */
function Pace({
  document,
  stage,
  index,
  well,
  onChange,
}: Pick<SpecSheetProps, 'document' | 'well' | 'onChange'> & { stage: Stage; index: number }) {
  const [isOpen, setOpen] = useState(false)
  const station = well.stations.find((s) => (stage.station ? s.slug === stage.station : s.method === stage.method))
  const speeds = station?.speeds ?? []
  const { bursts = 1, restS = 0, waitS = 0 } = stage
  const speed = stage.byWell?.[well.slug]?.speed ?? stage.speed
  const change = (to: Partial<Stage>) => onChange?.(edits.changeStage(document, index, to))
  const words = [
    speed && `at ${speeds.find((s) => s.slug === speed)?.name ?? speed} speed`,
    bursts > 1 && `in ${bursts} bursts, ${restS} s between`,
    waitS > 0 && `ice first, ${waitS} s waiting`,
  ].filter(Boolean)
  if (!onChange) return words.length > 0 ? <span className="text-soft">{words.join(', ')}</span> : null
  if (!isOpen && words.length === 0)
    return (
      <button
        type="button"
        className="px-1 text-sm text-soft hover:bg-shallow max-sm:min-h-11"
        onClick={() => setOpen(true)}
      >
        + bursts, waiting
      </button>
    )
  return (
    <span className="inline-flex flex-wrap items-baseline gap-x-2 text-sm">
      {speeds.length > 0 && (
        <select
          aria-label="Speed"
          className="inplace"
          value={speed ?? ''}
          onChange={(e) => onChange(edits.changeSpeedAt(document, index, well.slug, e.target.value || undefined))}
        >
          <option value="">usual speed</option>
          {speeds.map((s) => (
            <option key={s.slug} value={s.slug}>
              {s.name}
            </option>
          ))}
        </select>
      )}
      <span>
        in{' '}
        <NumberField
          label="Bursts"
          value={bursts}
          {...RANGES.bursts}
          digits={0}
          onChange={(n) => change({ bursts: Math.round(n) > 1 ? Math.round(n) : undefined })}
        />{' '}
        bursts
      </span>
      {bursts > 1 && (
        <span>
          <NumberField
            label="Rest between bursts"
            value={restS}
            {...RANGES.restS}
            step={0.5}
            onChange={(s) => change({ restS: s || undefined })}
          />{' '}
          s between
        </span>
      )}
      <span>
        ice waits{' '}
        <NumberField
          label="Ice waits"
          value={waitS}
          {...RANGES.iceWaitS}
          digits={0}
          step={5}
          onChange={(s) => change({ waitS: s || undefined })}
        />{' '}
        s
      </span>
    </span>
  )
}

function StageLine({
  document,
  stage,
  index,
  well,
  book,
  isFirstWell,
  onChange,
}: Pick<SpecSheetProps, 'document' | 'book' | 'well' | 'onChange'> & {
  stage: Stage
  index: number
  isFirstWell: boolean
}) {
  const at = edits.stageAt(stage, well.slug)
  const method = stage.method ?? well.stations.find((s) => s.slug === stage.station)?.method
  const pour = stage.pour ?? (method && METHODS[method].usual.pour) ?? 'open'
  const change = (next: { durationS?: number; ice?: IcePortion[] }) =>
    onChange?.(edits.changeStageAt(document, index, well.slug, next))
  return (
    <>
      <dt>chill</dt>
      <dd className="flex flex-wrap items-baseline gap-x-2">
        {onChange ? (
          <select
            aria-label="Method"
            className="inplace font-semibold"
            value={method ?? ''}
            onChange={(e) => onChange(edits.changeMethod(document, index, e.target.value as Method))}
          >
            {!method && <option value="">own figures</option>}
            {keysOf(METHODS).map((m) => (
              <option key={m} value={m}>
                {METHODS[m].label}
              </option>
            ))}
          </select>
        ) : (
          <span className="font-semibold">{method ? METHODS[method].label : 'own figures'}</span>
        )}
        <span className="text-soft">·</span>
        <IceList
          ice={at.ice}
          label="ice"
          context={iceContextOf(document, book, well, 'tin')}
          onChange={onChange && ((ice) => change({ ice }))}
        />
        <span className="text-soft">·</span>
        <span>
          <NumberField
            label="Seconds"
            value={at.durationS}
            {...RANGES.durationS}
            step={0.5}
            digits={2}
            isReadOnly={!onChange}
            onChange={(durationS) => change({ durationS })}
          />{' '}
          s
        </span>
        <Pace {...{ stage, index, document, well, onChange }} />
        <span className="text-soft">·</span>
        {onChange ? (
          <select
            aria-label="Pour"
            className="inplace"
            value={pour}
            onChange={(e) => onChange(edits.changeStage(document, index, { pour: e.target.value as Pour }))}
          >
            {keysOf(POURS).map((p) => (
              <option key={p} value={p}>
                {POURS[p].sentence}
              </option>
            ))}
          </select>
        ) : (
          <span title={POURS[pour].sentence}>{POURS[pour].label}</span>
        )}
        {!isFirstWell && onChange && (
          <label className="caption flex items-center gap-1">
            <input
              type="checkbox"
              checked={at.isOwn}
              onChange={(e) => onChange(edits.setOwnAtWell(document, index, well.slug, e.target.checked))}
            />
            {well.name}’s own
          </label>
        )}
        {!isFirstWell && !onChange && (
          <span className="caption">{at.isOwn ? `${well.name}’s own` : 'as everywhere'}</span>
        )}
      </dd>
    </>
  )
}
