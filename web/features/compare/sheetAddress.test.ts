import { expect, it } from 'vitest'
import { readSheet, sheetAddress, sheetAsked } from './sheetAddress.ts'

const read = (search: string) => readSheet(new URLSearchParams(search))

it('a sheet has at most five versions, none twice, and nothing that is none', () => {
  expect(read('of=a@1,b@2,a@1,thing:x,c@0,d@4,e@5,f@6,g@7').keys).toEqual(['a@1', 'b@2', 'd@4', 'e@5', 'f@6'])
  expect(read('').keys).toEqual([])
})

it('what stands in an address is read back as it was, the usual steps unsaid', () => {
  const usual = read('of=a@1,b@2')
  expect([...usual.steps]).toEqual(['oneServe', 'houseMeasures', 'slots'])
  expect(sheetAsked(usual)).toEqual({ of: 'a@1,b@2', steps: undefined })
  for (const steps of ['equalSugar', 'oneServe,commonVolume', 'none']) {
    const { steps: asked } = sheetAsked(read(`of=a@1&steps=${steps}`))
    expect(asked).toBe(steps)
  }
  expect(sheetAddress(['a@1', 'b@2'])).toBe('/compare/sheet?of=a%401%2Cb%402')
})
