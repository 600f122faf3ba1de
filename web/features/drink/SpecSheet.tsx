import { MethodLines } from './MethodLines.tsx'
import { PourTable } from './PourTable.tsx'
import type { SpecSheetProps } from './specSheetProps.ts'

/** The spec as a page of a pilot's book: pours in build order, then chill, pour, glass, finish. */
export function SpecSheet(props: SpecSheetProps) {
  return (
    <div>
      <PourTable {...props} />
      <MethodLines {...props} />
    </div>
  )
}
