import { describe, expect, it } from 'vitest'
import { type DrinkDocument, MEASURE_NAMES } from '../drink/index.ts'
import { seededRandom } from '../solve/index.ts'
import { testDrink, testHouse } from '../testing/house.ts'
import { choicesOf } from './choices.ts'
import { iceTableOf, type Move, withMoves } from './iceTable.ts'
import { makersOf } from './makeGlass.ts'

const book = testHouse()
const DRINKS: Record<string, Partial<Parameters<typeof testDrink>[0]>> = {
  'flash blended, open pour': {},
  'shaken with cubes, strained': { stages: [{ method: 'hardShake', pour: 'strained', durationS: 10 }] },
  'stirred, with crushed ice in the glass': {
    stages: [{ method: 'stir', durationS: 20 }],
    serveIce: [{ kind: 'crushed', massG: 60 }],
  },
  'with a float and soda in the glass': {
    pours: [
      { ingredient: 'plain-rum', amount: { value: 45, unit: 'ml' } },
      { ingredient: 'lime-juice', amount: { value: 22.5, unit: 'ml' } },
      { ingredient: 'nut-syrup', amount: { value: 15, unit: 'ml' } },
      { ingredient: 'soda', amount: { value: 60, unit: 'ml' }, into: 'glass' },
      { ingredient: 'strong-rum', amount: { value: 7.5, unit: 'ml' }, into: 'float' },
    ],
  },
}

function tableFor(document: DrinkDocument) {
  const chosen = choicesOf({ document, standard: {}, book, wells: ['front'] })
  const made = makersOf(document, book, ['front'])
  if (!chosen.ok || !made.ok) throw new Error('it can be tried')
  const maker = made.makers[0] as (typeof made.makers)[number]
  const baseMl = document.pours.map((_, i) => chosen.variables.find((v) => v.index === i)?.fromMl ?? 0)
  const table = iceTableOf(maker, chosen.variables, baseMl)
  if (!table) throw new Error('it can be made')
  return { maker, table, baseMl, variables: chosen.variables }
}

describe.each(Object.entries(DRINKS))('the table of a drink that is %s', (_, changes) => {
  const { maker, table, baseMl, variables } = tableFor(testDrink(changes))

  it('is no further off than it says, wherever up to three lines go on the grid', () => {
    const { uniform } = seededRandom(77)
    const beyond: string[] = []
    for (let run = 0; run < 500; run++) {
      const places = variables.map((__, i) => i)
      const moves: Move[] = Array.from({ length: 1 + Math.floor(3 * uniform()) }, () => {
        const [place = 0] = places.splice(Math.floor(uniform() * places.length), 1)
        const { fromMl, choices } = variables[place] as (typeof variables)[number]
        const choice = choices[Math.floor(uniform() * choices.length)] as (typeof choices)[number]
        return [place, choice.toMl - fromMl]
      })
      const seen = table.look(moves)
      const made = maker.make(withMoves(baseMl, variables, moves))
      for (const m of MEASURE_NAMES) {
        const [is, was] = [seen[m], made?.predictions[m]?.value]
        if (is === undefined || was === undefined) continue
        if (Math.abs(is - was) > (table.off[m] ?? 0))
          beyond.push(`${m} ${Math.abs(is - was).toFixed(4)} > ${table.off[m]?.toFixed(4)}`)
      }
    }
    expect(beyond).toEqual([])
  })

  it('says of the drink as it is what the model says, within the same', () => {
    const seen = table.look([])
    const made = maker.make(baseMl)
    for (const m of MEASURE_NAMES) {
      const [is, was] = [seen[m], made?.predictions[m]?.value]
      if (is !== undefined && was !== undefined) expect(Math.abs(is - was)).toBeLessThanOrEqual(table.off[m] ?? 0)
    }
  })

  it('is near enough to be of use: what is tasted to a part of a window, even at the ends of all lines', () => {
    expect(table.off.strengthPct).toBeLessThan(0.4)
    expect(table.off.sweetGPer100Ml).toBeLessThan(0.3)
    expect(table.off.sourGPer100Ml).toBeLessThan(0.04)
  })
})
