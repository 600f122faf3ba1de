/** Colours of spirits from water to tar, each with its depth, 0 to 10. The first word that fits decides. */
import { keysOf } from '../schema/keysOf.ts'
export const COLOURS = {
  clear: { depth: 0, words: ['clear', 'white', 'colourless'] },
  pale: { depth: 2, words: ['pale', 'straw'] },
  gold: { depth: 4, words: ['gold'] },
  amber: { depth: 6, words: ['amber'] },
  mahogany: { depth: 8, words: ['mahogany', 'brown'] },
  nearBlack: { depth: 10, words: ['black'] },
} as const satisfies Record<string, { depth: number; words: readonly string[] }>

const LABELS: Record<keyof typeof COLOURS, string> = {
  clear: 'clear',
  pale: 'pale',
  gold: 'gold',
  amber: 'amber',
  mahogany: 'mahogany',
  nearBlack: 'near black',
}
const NAMES = keysOf(COLOURS)

/** How deep a colour is that somebody wrote, 0 to 10; "pale gold" lies between its two. Undefined for no known word. */
export function colourDepthOf(text: string | undefined): number | undefined {
  const written = (text ?? '').toLowerCase()
  const depths: number[] = NAMES.filter((n) => COLOURS[n].words.some((w) => written.includes(w))).map(
    (n) => COLOURS[n].depth,
  )
  return depths.length > 0 ? depths.reduce((sum, d) => sum + d, 0) / depths.length : undefined
}

/** The word for a depth. */
export function colourWord(depth: number): string {
  const nearest = [...NAMES].sort((a, b) => Math.abs(COLOURS[a].depth - depth) - Math.abs(COLOURS[b].depth - depth))[0]
  return nearest ? LABELS[nearest] : ''
}
