import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { z } from 'zod'
import { drinkDocumentSchema } from '../drink/schema.ts'
import { ingredientSchema } from '../house/schema.ts'
import { menuPlanSchema } from '../menu/schema.ts'
import { slotSchema } from '../schema/palate.ts'
import { everyMutation, fullSample } from '../testing/fromSchema.ts'
import { testDrink } from '../testing/house.ts'
import { type DocumentKind, type DocumentKinds, differences, isSame, withDifferences } from './index.ts'

const SCHEMAS: Record<DocumentKind, z.ZodType> = {
  drink: drinkDocumentSchema,
  ingredient: ingredientSchema,
  slot: slotSchema,
  plan: menuPlanSchema,
}
const KINDS = Object.keys(SCHEMAS) as DocumentKind[]
type Any = DocumentKinds[DocumentKind]

/** A plan names a drink once: the sample of its schema is made to. */
function sampleOf(kind: DocumentKind): Any {
  const sample = fullSample(SCHEMAS[kind]) as Any
  if (kind !== 'plan') return sample
  const plan = sample as DocumentKinds['plan']
  let n = 0
  return {
    chapters: plan.chapters.map((c) => ({ ...c, entries: c.entries.map((e) => ({ ...e, drink: `drink-${n++}` })) })),
  }
}
const diff = (kind: DocumentKind, a: Any, b: Any) => differences(kind as 'drink', a as never, b as never)
const take = (kind: DocumentKind, a: Any, b: Any, ids: string[]) =>
  withDifferences(kind as 'drink', a as never, b as never, new Set(ids))

/** What a plan cannot hold: a drink twice, an entry without its drink, a chapter without entries. */
const isPlan = (d: unknown) => menuPlanSchema.safeParse(d).success

describe.each(KINDS)('of a %s', (kind) => {
  const sample = sampleOf(kind)
  const mutations = everyMutation(sample).filter((m) => kind !== 'plan' || isPlan(m.apply(sample)))

  it('the sample has every field of the schema', () => {
    expect(mutations.length).toBeGreaterThan(kind === 'plan' ? 10 : 40)
    const shape = (SCHEMAS[kind] as unknown as { _zod: { def: { shape: object } } })._zod.def.shape
    expect(Object.keys(sample).sort()).toEqual(Object.keys(shape).sort())
  })

  it('any one field changed is not the same, and there are words for it, different on both sides', () => {
    for (const { name, apply } of mutations) {
      const changed = apply(sample) as Any
      if (isSame(changed, sample)) continue
      const found = diff(kind, sample, changed)
      expect(found.length, name).toBeGreaterThan(0)
      for (const d of found) {
        expect(d.subject, name).not.toBe('')
        expect(d.before, `${name}: ${d.subject}`).not.toBe(d.after)
        expect([d.before ?? '', d.after ?? ''].join(' '), name).not.toMatch(/\[object|undefined/)
      }
    }
  })

  it('nothing is different from itself, whatever order its keys are in', () => {
    const turned = JSON.parse(JSON.stringify(sample), (_, v) =>
      v && typeof v === 'object' && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).reverse()) : v,
    )
    expect(isSame(sample, turned)).toBe(true)
    expect(diff(kind, sample, turned)).toEqual([])
  })

  const anyDocument = fc
    .array(fc.nat(mutations.length - 1), { maxLength: 5 })
    .map((chosen) =>
      chosen.reduce((d, i) => {
        try {
          return mutations[i]?.apply(d) ?? d
        } catch {
          return d // what it would have changed is gone already
        }
      }, sample as unknown),
    )
    // What is changed in something that is gone leaves a hole, which no document has.
    .filter((d) => !/[[,]null/.test(JSON.stringify(d)))
    .filter((d) => kind !== 'plan' || isPlan(d)) as fc.Arbitrary<Any>

  it('A with everything that B says differently is B, and nothing is left to say', () => {
    fc.assert(
      fc.property(anyDocument, anyDocument, (a, b) => {
        const found = diff(kind, a, b)
        expect(found.length === 0).toBe(isSame(a, b))
        expect(
          isSame(
            take(
              kind,
              a,
              b,
              found.map((d) => d.id),
            ),
            b,
          ),
        ).toBe(true)
        expect(isSame(take(kind, a, b, []), a)).toBe(true)
      }),
      { numRuns: 300, seed: 20 },
    )
  })

  it('some of the differences taken leave the others to be said', () => {
    fc.assert(
      fc.property(anyDocument, anyDocument, fc.infiniteStream(fc.boolean()), (a, b, coin) => {
        const ids = diff(kind, a, b).map((d) => d.id)
        // Of two things of one name the second becomes the first when that goes: another id.
        fc.pre(ids.every((id) => !id.includes('\\u0001')))
        const chosen = ids.filter(() => coin.next().value)
        const left = diff(kind, take(kind, a, b, chosen), b).map((d) => d.id)
        // A chapter that goes without its drinks stays for them.
        const isSettled = (id: string) => !id.includes('"#"') && !id.startsWith('["chapters"')
        for (const id of chosen.filter(isSettled)) expect(left).not.toContain(id)
      }),
      { numRuns: 200, seed: 21 },
    )
  })
})

describe('in words', () => {
  const nameOf = (slug: string) => slug.replaceAll('-', ' ')
  const say = (before: Partial<DocumentKinds['drink']>, after: Partial<DocumentKinds['drink']>) =>
    differences('drink', testDrink(before), testDrink(after), nameOf).map(
      (d) => `${d.subject}: ${d.before ?? '–'} → ${d.after ?? '–'}`,
    )

  it('two specs of a drink', () => {
    expect(
      say(
        {},
        {
          pours: [
            { ingredient: 'plain-rum', amount: { value: 1.5, unit: 'oz' }, into: 'tin' },
            { ingredient: 'lime-juice', amount: { value: 0.75, unit: 'oz' }, into: 'tin' },
            { ingredient: 'nut-syrup', amount: { value: 0.5, unit: 'oz' }, into: 'float' },
          ],
          stages: [{ method: 'flashBlend', durationS: 5, waitS: 3, bursts: 2, restS: 1 }],
        },
      ),
    ).toEqual([
      'plain rum: 2 oz → 1½ oz',
      'nut syrup: – → ½ oz, floated',
      'flash blend: seconds 4 s, bursts not said, rest between bursts not said, waits on the ice not said → seconds 5 s, bursts 2, rest between bursts 1 s, waits on the ice 3 s',
      'sugar syrup: ½ oz → –',
    ])
  })

  it('the order of pours, a garnish that is not food, and a standard', () => {
    const pours = testDrink().pours
    expect(say({}, { pours: [...pours].reverse() })).toEqual([
      'order of pours: plain rum, lime juice, sugar syrup → sugar syrup, lime juice, plain rum',
    ])
    expect(
      say({ garnish: [{ text: 'a fern', isFood: true }] }, { garnish: [{ text: 'a fern', isFood: false }] }),
    ).toEqual(['garnish: a fern: to be eaten yes → to be eaten no'])
    expect(
      say(
        { standard: { sourGPer100Ml: { low: 0.8, high: 0.9 } } },
        { standard: { sourGPer100Ml: { low: 0.8, high: 1 } } },
      ),
    ).toEqual(['standard: sour: 0.8 to 0.9 g/100 ml → 0.8 to 1 g/100 ml'])
  })

  it('a renamed chapter takes its drinks along, and can be taken by itself', () => {
    const before = {
      chapters: [
        {
          name: 'Long',
          entries: [
            { drink: 'a', version: 1 },
            { drink: 'b', version: 1 },
          ],
        },
      ],
    }
    const after = {
      chapters: [
        {
          name: 'Tall',
          entries: [
            { drink: 'a', version: 1 },
            { drink: 'b', version: 2 },
          ],
        },
      ],
    }
    const found = differences('plan', before, after)
    expect(found.map((d) => [d.subject, d.before, d.after])).toEqual([
      ['chapter', 'Long', 'Tall'],
      ['b', 'v1, chapter “Long”', 'v2, chapter “Tall”'],
    ])
    const taken = withDifferences('plan', before, after, new Set([found[1]?.id ?? '']))
    expect(taken.chapters).toEqual([
      { name: 'Long', entries: [{ drink: 'a', version: 1 }] },
      { name: 'Tall', entries: [{ drink: 'b', version: 2 }] },
    ])
  })
})
