/** The back bar in and out as a table, on both databases. */

import type { BottleTableReport } from '@conch/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

describe.each(BACKENDS)('on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
  })
  afterAll(() => server.database.close())
  const send = (csv: string, mode: string) =>
    server.send<BottleTableReport>('POST', '/api/ingredients.csv', { csv, mode })
  const shelf = async () => (await server.house()).body.ingredients
  const MIXED =
    'name,strength,sugar,colour of cap\nGood Rum,80 proof,,red\nBad Rum,300,,\n,40,,\nBad Syrup,0,120 Bx,\nGood Rum,41,,\n'

  it('looks first: every bad cell by line and column, and nothing is saved', async () => {
    const { body } = await send(MIXED, 'check')
    expect(body).toEqual({
      rows: 5,
      made: 1,
      changed: 0,
      same: 0,
      saved: false,
      unknownColumns: ['colour of cap'],
      problems: [
        { line: 3, column: 'strength', message: '“300” is 300 % ABV; at most 100' },
        { line: 4, column: 'name', message: 'give it a name' },
        { line: 5, column: 'sugar', message: '“120 Bx” cannot be; a syrup has at most 70 °Bx' },
        { line: 6, column: 'name', message: '“Good Rum” stands in line 2 already' },
      ],
    })
    expect((await shelf()).some((i) => i.slug === 'good-rum')).toBe(false)
  })

  it('is refused whole when one row is bad, or keeps the good rows: as one says', async () => {
    expect((await send(MIXED, 'whole')).body.saved).toBe(false)
    expect((await shelf()).some((i) => i.slug === 'good-rum')).toBe(false)
    expect((await send(MIXED, 'good')).body).toMatchObject({ saved: true, made: 1 })
    expect((await shelf()).find((i) => i.slug === 'good-rum')?.figures.abvPct).toEqual({ value: 40, basis: 'label' })
  })

  it('goes out and comes back without a change', async () => {
    const { text, headers } = await server.file('/api/ingredients.csv')
    expect(headers.get('content-type')).toContain('text/csv')
    const again = (await send(Buffer.from(text, 'latin1').toString('utf8'), 'whole')).body
    expect(again).toMatchObject({ made: 0, changed: 0, problems: [] })
    expect(again.same).toBe(again.rows)
  })

  it('changes only what a cell says; the rest keeps how it is known', async () => {
    const before = (await shelf()).find((i) => i.slug === 'lime-juice')
    expect((await send('name,price\nLime juice,8.50\n', 'whole')).body).toMatchObject({ changed: 1, saved: true })
    const after = (await shelf()).find((i) => i.slug === 'lime-juice')
    expect(after).toEqual({ ...before, price: 8.5 })
  })

  it('does not put a label in place of what was measured', async () => {
    const { body } = await server.house()
    const juice = body.ingredients.find((i) => i.slug === 'lemon-juice')
    const acid = { value: 5.4, basis: 'measured', on: '2026-01-01', by: 'Lead' }
    const document = { ...juice, figures: { ...juice?.figures, acidGPer100Ml: acid } }
    const revision = body.revisions.ingredients['lemon-juice']
    expect((await server.send('PUT', '/api/ingredients/lemon-juice', { document, revision })).status).toBe(200)
    await send('name,acid,price\nLemon juice,6.1,7\n', 'whole')
    const after = (await shelf()).find((i) => i.slug === 'lemon-juice')
    expect(after).toMatchObject({ price: 7, figures: { acidGPer100Ml: acid } })
    await send('name,acid,known by\nLemon juice,6.1,measured\n', 'whole')
    expect((await shelf()).find((i) => i.slug === 'lemon-juice')?.figures.acidGPer100Ml).toEqual({
      value: 6.1,
      basis: 'measured',
    })
  })

  it('takes mixed line ends and says when there is no table', async () => {
    expect((await send('name,strength\r\nTide One,40\nTide Two,41\r\n', 'whole')).body).toMatchObject({ made: 2 })
    expect((await send('just words', 'whole')).problem.detail).toContain('the first line names the columns')
    expect((await send('', 'check')).status).toBe(422)
  })

  it('does not overwrite a house mix', async () => {
    const figure = { value: 0, basis: 'assumed' }
    const document = {
      slug: 'own-syrup',
      name: 'Own syrup',
      kind: 'houseMix',
      figures: { abvPct: figure, sugarGPer100Ml: figure, acidGPer100Ml: figure },
      recipe: { by: 'weight', components: [{ ingredient: 'water', amount: 1 }] },
    }
    await server.send('PUT', '/api/ingredients/own-syrup', { document, revision: 0 })
    expect((await send('name,sugar\nOwn syrup,50\n', 'good')).body.problems).toEqual([
      { line: 2, column: 'name', message: '“Own syrup” is a house mix; its figures follow from its recipe' },
    ])
  })

  it('takes five thousand bottles at once', async () => {
    const rows = Array.from({ length: 5000 }, (_, i) => `Bulk Rum ${i},spirit,${40 + (i % 30)},70 cl,${15 + (i % 40)}`)
    const { body } = await send(`name,kind,strength,size,price\n${rows.join('\n')}\n`, 'whole')
    expect(body).toMatchObject({ rows: 5000, made: 5000, saved: true, problems: [] })
    const listed = await server.get<{ total: number }>('/api/shelf/rows?limit=1')
    expect(listed.body.total).toBeGreaterThan(5000)
  }, 60_000)
})
