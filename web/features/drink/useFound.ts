import type { Drink } from '@conch/contract'
import { type DrinkDocument, type PourLine, withSeconds } from '@conch/core/drink'
import { useEffect, useRef } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { toast } from 'sonner'
import type { DrinkDraft } from './useDrinkDraft.ts'

/** Lines that another page found for one line of this spec; it comes with the address, once. */
export interface ReplaceLine {
  index: number
  /** What the line poured when it was asked for: it may have moved meanwhile. */
  was: Pick<PourLine, 'ingredient' | 'slot'>
  lines: PourLine[]
  /** That hold the strength with them, at one well. */
  seconds?: { well: string; durationS: number }
}

/** A whole spec that the bench found: other seconds, another method, another size. */
export interface UseSpec {
  document: DrinkDocument
  /** What it is, said once. */
  note: string
}

const isSame = (line: PourLine | undefined, was: ReplaceLine['was']) =>
  line !== undefined && line.ingredient === was.ingredient && line.slot === was.slot

/** A spec with some lines in place of one; undefined when that line is not there any more. */
export function withLines(
  document: DrinkDocument,
  { index, was, lines, seconds }: ReplaceLine,
): DrinkDocument | undefined {
  const at = isSame(document.pours[index], was) ? index : document.pours.findIndex((p) => isSame(p, was))
  if (at < 0) return undefined
  const next = { ...document, pours: [...document.pours.slice(0, at), ...lines, ...document.pours.slice(at + 1)] }
  return seconds ? withSeconds(next, seconds.well, seconds.durationS) : next
}

/** Takes over what was found elsewhere: in the draft where there is one, else in a new draft of the open version. */
export function useFound({
  drink,
  control,
  document,
  isDraft,
  mayEdit,
  onEdited,
}: {
  drink: Drink
  control: DrinkDraft
  document: DrinkDocument | undefined
  isDraft: boolean
  mayEdit: boolean
  onEdited: () => void
}): void {
  const { state, pathname, search } = useLocation()
  const navigate = useNavigate()
  const { replaceLine, useSpec } = (state as { replaceLine?: ReplaceLine; useSpec?: UseSpec } | null) ?? {}
  const asked = replaceLine ?? useSpec
  const done = useRef<ReplaceLine | UseSpec>(undefined)
  useEffect(() => {
    if (!asked || done.current === asked || !document || !mayEdit) return
    done.current = asked
    navigate(pathname + search, { replace: true, state: null })
    const { draft } = control
    const next = 'lines' in asked ? withLines(draft?.document ?? document, asked) : asked.document
    if (!('lines' in asked)) toast(asked.note)
    if (!next) {
      toast('That line is not in the draft any more: pour it there by hand.')
      return
    }
    const open = isDraft ? draft?.baseVersion : drink.versions.find((v) => v.document === document)?.number
    control.edit(next, (draft ? draft.baseVersion : open) ?? null, document)
    onEdited()
  })
}
