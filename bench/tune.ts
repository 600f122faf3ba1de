/** The tuner's linear part through a general solver of mixed-integer programs: melt held still, volumes taken as if they added. */

import { type DrinkDocument, resolveDrink } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { choicesOf, type TuneAsked } from '@conch/core/tune'
import highs from 'highs'

const BINDING = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'volumeMl'] as const

/** A drink of the house, asked to end as much drier as a sweeter syrup would have made it. */
export function tuneProblem(document: DrinkDocument, book: HouseBook, drier: number): TuneAsked {
  const { sweetGPer100Ml: sweet } = document.standard
  if (!sweet) throw new Error('the drink promises its sweetness')
  const standard = { ...document.standard, sweetGPer100Ml: { low: sweet.low - drier, high: sweet.high - drier } }
  return { document, standard, book, wells: book.wells.map((w) => w.slug) }
}

/** The fewest changed lines, then the fewest steps, by HiGHS, at one well; melt as it is now. */
export async function tuneByMilp(
  asked: TuneAsked,
  meltMl: number,
): Promise<{ lines: number; steps: number; solve: () => void }> {
  const solver = await highs()
  const { document, book, standard, wells } = asked
  const chosen = choicesOf(asked)
  const resolved = resolveDrink(document, book, wells[0])
  if (!chosen.ok || !resolved.ok) throw new Error('the problem can be tried')
  const { pours } = resolved.drink
  const perMl = pours.map(({ liquid, volumeMl }) => ({
    strengthPct: (100 * liquid.ethanolG) / 0.78924 / volumeMl,
    sweetGPer100Ml: (100 * liquid.sugarG) / volumeMl,
    sourGPer100Ml: (100 * liquid.acidG) / volumeMl,
    volumeMl: 1,
  }))
  const names: string[] = []
  const goals: string[] = []
  const rows: string[] = []
  // What every line adds to a measure's window: its own figure less the window's end, times its volume.
  const sums = new Map<string, { terms: string[]; fixed: number }>()
  for (const m of BINDING)
    for (const end of ['low', 'high'] as const) if (standard[m]) sums.set(`${m} ${end}`, { terms: [], fixed: 0 })
  const weigh = (index: number, ml: number, name?: string) => {
    for (const [key, sum] of sums) {
      const [m, end] = key.split(' ') as [(typeof BINDING)[number], 'low' | 'high']
      const limit = standard[m]?.[end] ?? 0
      const figure = perMl[index]?.[m] ?? 0
      const value = m === 'volumeMl' ? ml : (figure - limit) * ml
      if (name) sum.terms.push(`${value >= 0 ? '+' : '-'} ${Math.abs(value).toFixed(9)} ${name}`)
      else sum.fixed += value
    }
  }
  for (const v of chosen.variables) {
    const own: string[] = []
    for (const [n, c] of [{ toMl: v.fromMl, steps: 0 }, ...v.choices].entries()) {
      const name = `y${v.index}_${n}`
      names.push(name)
      own.push(name)
      if (n > 0) goals.push(`${1000 + c.steps} ${name}`)
      weigh(v.index, c.toMl, name)
    }
    rows.push(` one${v.index}: ${own.join(' + ')} = 1`)
  }
  for (const [index, p] of pours.entries())
    if (!chosen.variables.some((v) => v.index === index)) weigh(index, p.volumeMl)
  for (const [key, { terms, fixed }] of sums) {
    const [m, end] = key.split(' ') as [(typeof BINDING)[number], 'low' | 'high']
    const limit = standard[m]?.[end] ?? 0
    // Meltwater brings nothing but itself.
    const melt = m === 'volumeMl' ? meltMl - limit : -limit * meltMl
    rows.push(` ${m}_${end}: ${terms.join(' ')} ${end === 'low' ? '>=' : '<='} ${(-fixed - melt).toFixed(9)}`)
  }
  const model = [
    'Minimize',
    ` obj: ${goals.join(' + ')}`,
    'Subject To',
    ...rows,
    'Binary',
    ` ${names.join(' ')}`,
    'End',
  ].join('\n')
  const solved = solver.solve(model)
  if (solved.Status !== 'Optimal') throw new Error(`the peer ended with ${solved.Status}`)
  const columns = solved.Columns as Record<string, { Primal?: number }>
  let lines = 0
  let steps = 0
  for (const v of chosen.variables)
    v.choices.forEach((c, i) => {
      if ((columns[`y${v.index}_${i + 1}`]?.Primal ?? 0) < 0.5) return
      lines++
      steps += c.steps
    })
  return { lines, steps, solve: () => void solver.solve(model) }
}
