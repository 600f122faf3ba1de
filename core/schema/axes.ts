import { keysOf } from './keysOf.ts'

interface Axis {
  label: string
  /** What the two ends of the line taste like. */
  low: string
  high: string
  /** One sentence for somebody who tastes for the first time. */
  about: string
}

/** The lines on which a bottle is placed, 0 at the low end, 10 at the high one. The order is the order of pictures. */
export const STYLE_AXES = {
  weight: {
    label: 'weight',
    low: 'light, column',
    high: 'heavy, pot',
    about: 'How much the spirit itself weighs on the tongue, before wood and sugar.',
  },
  funk: {
    label: 'ester funk',
    low: 'clean',
    high: 'overripe fruit',
    about: 'Overripe banana, pineapple, glue: what a long ferment leaves.',
  },
  oak: {
    label: 'age and oak',
    low: 'no wood',
    high: 'long in wood',
    about: 'Vanilla, dry wood, tannin; colour alone is no age.',
  },
  grass: {
    label: 'cane grass',
    low: 'none',
    high: 'green cane',
    about: 'Cut grass, olive, wet hay: fresh cane rather than molasses.',
  },
  molasses: {
    label: 'molasses',
    low: 'none',
    high: 'dark treacle',
    about: 'Treacle, liquorice, burnt sugar, whether from the still or added.',
  },
  spice: {
    label: 'spice',
    low: 'plain',
    high: 'hot spice',
    about: 'Pepper, clove, cinnamon, ginger.',
  },
  smoke: {
    label: 'smoke',
    low: 'none',
    high: 'tar and ash',
    about: 'Ash, tar, rubber, char.',
  },
  dryness: {
    label: 'dryness',
    low: 'round, soft',
    high: 'bone dry',
    about: 'How the swallow ends: soft and sweet, or bare.',
  },
} as const satisfies Record<string, Axis>

export type StyleAxis = keyof typeof STYLE_AXES
export const STYLE_AXIS_NAMES = keysOf(STYLE_AXES)

/** The line goes from 0 to this. */
export const MOST_ON_AXIS = 10

/** More glasses than this nobody keeps apart. */
export const MOST_IN_A_FLIGHT = 6
