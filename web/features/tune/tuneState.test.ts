import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { describe, expect, it } from 'vitest'
import { inGlass, readWish, tasted, withLimit } from './tuneState.ts'

describe('what the tuner is asked for', () => {
  it('is read from an address; anything else is the standard', () => {
    expect(['lessSour', 'glass:tall', 'like:3', 'cheaper', 'like:0', 'glass:', 'nonsense', null].map(readWish)).toEqual(
      ['lessSour', 'glass:tall', 'like:3', 'cheaper', 'standard', 'standard', 'standard', 'standard'],
    )
  })

  it('another glass is for one well, and keeps what is tasted', () => {
    const document = drinkDocumentSchema.parse({
      name: 'Bell',
      pours: [{ ingredient: 'plain-rum', volumeMl: 60 }],
      stages: [],
    })
    expect(inGlass(document, 'yard', 'thimble').glassByWell).toEqual({ yard: 'thimble' })
    expect(document.glassByWell).toBeUndefined()
    const band = { low: 1, high: 2 }
    expect(tasted({ volumeMl: band, washLinePct: band, strengthPct: band })).toEqual({ strengthPct: band })
  })

  it('a limit that is taken away leaves nothing behind', () => {
    const one = withLimit({}, 2, { isLocked: true, leastMl: 20 })
    expect(one).toEqual({ 2: { isLocked: true, leastMl: 20 } })
    expect(withLimit(one, 2, { isLocked: false })).toEqual({ 2: { leastMl: 20 } })
    expect(withLimit(withLimit(one, 2, { isLocked: false }), 2, { leastMl: undefined })).toEqual({})
  })
})
