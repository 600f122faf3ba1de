import { ICE_KINDS, type IceKind, type IcePortion, METHODS, type Method } from '../cold/index.ts'
import { type DrinkDocument, MEASURES, type Problem, resolveDrink, type Standard } from '../drink/index.ts'
import { bySlug, type HouseBook, type Well } from '../house/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import { type SolvedMeans, solveMeans } from './solveMeans.ts'

/** A drink made by another method, solved to the same standard. */
export interface Swap {
  method: Method
  isOwn: boolean
  /** The spec as it would be written, with the seconds and ice found. */
  document: DrinkDocument
  solved: SolvedMeans
  /** The well has gear for it; else the shipped preset stands in. */
  hasStation: boolean
  /** What no seconds make the same. */
  cannotMatch: string[]
}

/** Ice that is fine and loose: one kind does for another where a bar has only one. */
const LOOSE: readonly IceKind[] = ['crushed', 'pebble', 'cracked']

/** The ice that this well has for a portion: its own loose ice for another loose kind. */
function iceAt(well: Well | undefined, portion: IcePortion): IcePortion {
  if (!well || !LOOSE.includes(portion.kind) || well.ice[portion.kind]) return portion
  const own = LOOSE.find((kind) => well.ice[kind])
  return own ? { kind: own, massG: portion.massG } : portion
}

/** A spec with another method in its first stage, with that method's usual ice and seconds, at one well. */
export function withMethod(document: DrinkDocument, method: Method, well: Well | undefined): DrinkDocument {
  const [first, ...rest] = document.stages
  const { usual } = METHODS[method]
  const ice = usual.ice.map((p) => iceAt(well, p))
  return {
    ...document,
    stages: [{ method, ice, durationS: usual.durationS, pour: usual.pour }, ...(first ? rest : [])],
  }
}

/** Ice below this in a glass is none, g. */
const SOME_ICE_G = 15

/**
 * The same standard by every method: seconds and ice for each, and what stays different. Where a
 * method strains its ice off, the glass gets ice of its own, as much as the drink had.
 */
export function swapMethods(
  document: DrinkDocument,
  standard: Standard,
  book: HouseBook,
  wellSlug: string,
): { ok: true; swaps: Swap[] } | { ok: false; problems: Problem[] } {
  const asWritten = resolveDrink(document, book, wellSlug)
  if (!asWritten.ok) return asWritten
  const well = bySlug(book.wells, wellSlug)
  const own = asWritten.drink.stages[0]?.method
  const solve = (d: DrinkDocument): SolvedMeans => {
    const resolution = resolveDrink(d, book, wellSlug)
    return resolution.ok
      ? solveMeans(resolution.drink, standard, book.settings, { looksForHelp: false })
      : { outcome: 'noStage' }
  }
  const ownSolved = own ? solve(document) : undefined
  const iceInGlassG = atOf(ownSolved)?.iceG ?? 0
  const swaps = keysOf(METHODS)
    // Nothing is worked in a build: there are no seconds to solve for, unless the drink is one.
    .filter((m) => m !== 'build' || own === 'build')
    .map((method): Swap => {
      const isOwn = method === own
      let written = isOwn ? document : withMethod(document, method, well)
      const serves = written.serveIceByWell?.[wellSlug] ?? written.serveIce
      const strains = METHODS[method].usual.pour !== 'open'
      if (!isOwn && strains && iceInGlassG > SOME_ICE_G) {
        const kind = serves[0]?.kind ?? iceAt(well, { kind: 'crushed', massG: 0 }).kind
        const { serveIceByWell: _, ...rest } = written
        written = { ...rest, serveIce: [{ kind, massG: Math.round(iceInGlassG / 5) * 5 }] }
      }
      const solved = isOwn && ownSolved ? ownSolved : solve(written)
      return {
        method,
        isOwn,
        document: solvedDocument(written, solved, wellSlug),
        solved,
        hasStation: well?.stations.some((s) => s.method === method) ?? false,
        cannotMatch: isOwn ? [] : differences(own, method, ownSolved, solved),
      }
    })
  return { ok: true, swaps: swaps.sort((a, b) => Number(b.isOwn) - Number(a.isOwn)) }
}

/** A spec with the seconds and ice that were found, at one well; as it is where none were. */
export function solvedDocument(document: DrinkDocument, solved: SolvedMeans, well: string): DrinkDocument {
  if (solved.outcome !== 'reached') return document
  const stages = document.stages.map((stage, i) => {
    if (i > 0) return stage
    const here = { ...stage.byWell?.[well], durationS: solved.durationS }
    if (solved.isOtherIce) here.ice = [...solved.ice]
    return { ...stage, byWell: { ...stage.byWell, [well]: here } }
  })
  return { ...document, stages }
}

function atOf(solved: SolvedMeans | undefined) {
  if (solved?.outcome === 'reached') return solved.at
  return solved?.outcome === 'cannotBeReached' ? solved.nearest : undefined
}

function differences(own: Method | undefined, method: Method, was: SolvedMeans | undefined, is: SolvedMeans): string[] {
  const words: string[] = []
  if (own && METHODS[own].texture !== METHODS[method].texture)
    words.push(`${METHODS[method].texture}; not ${METHODS[own].texture}`)
  const before = atOf(was)?.predictions.temperatureC?.value
  const after = atOf(is)?.predictions.temperatureC?.value
  if (before !== undefined && after !== undefined && Math.abs(after - before) > MEASURES.temperatureC.tolerance / 2)
    words.push(`${Math.abs(after - before).toFixed(1)} K ${after > before ? 'warmer' : 'colder'}`)
  const iceBefore = atOf(was)?.iceG ?? 0
  const iceAfter = atOf(is)?.iceG ?? 0
  if (Math.abs(iceAfter - iceBefore) > 2 * SOME_ICE_G)
    words.push(
      `${Math.round(Math.abs(iceAfter - iceBefore))} g ${iceAfter > iceBefore ? 'more' : 'less'} ice in the glass`,
    )
  return words
}

export function iceWords(portions: readonly IcePortion[]): string {
  return portions.map((p) => `${Math.round(p.massG)} g ${ICE_KINDS[p.kind].label}`).join(' + ')
}
