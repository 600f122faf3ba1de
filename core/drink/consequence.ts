/** Something that follows from a spec. `stop` before `mind` before `note`. */
export interface Consequence {
  weight: 'stop' | 'mind' | 'note'
  code:
    | 'overflow'
    | 'strong'
    | 'drift'
    | 'edge'
    | 'allergens'
    | 'overproofFlame'
    | 'overproof'
    | 'sodaShaken'
    | 'highLine'
    | 'balance'
    | 'notFood'
    | 'iceGone'
    | 'froze'
    | 'assumed'
    | 'unknownFigure'
    | 'uncalibrated'
    | 'drifting'
    | 'foam'
    | 'muddy'
    | 'juiceAge'
    | 'farBelow'
    | 'heap'
    | 'noStation'
    | 'expired'
    | 'due'
    | 'lot'
    | 'stir'
    | 'doubleAcid'
    | 'outOfStock'
    | 'allergenUnsure'
    | 'mixProblem'
    | 'slot'
  text: string
  /** Safety: the panel that shows it defers to local law. */
  isSafety: boolean
}

/** Says one, in its place. */
export type Say = (weight: Consequence['weight'], code: Consequence['code'], text: string, isSafety?: boolean) => void
