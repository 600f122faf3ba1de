/** Threads: one job after the other, whatever becomes of one; and one person cannot take all there is. */

import { afterAll, describe, expect, it } from 'vitest'
import { LOCK } from '../features/editions/lockPlan.ts'
import { BOTTLE_ROWS } from '../features/house/readBottleRows.ts'
import { createWork, jobOf } from './index.ts'

const csv = (rows: number) => `name,strength\n${Array.from({ length: rows }, (_, i) => `Rum ${i},40`).join('\n')}\n`

describe('work', () => {
  const work = createWork()
  afterAll(() => work.close())
  const read = (by: string, rows: number) =>
    work.run(by, BOTTLE_ROWS, { csv: csv(rows), firstLine: 2, ingredients: [] })

  it('is done, all of it, by however few threads', async () => {
    const found = await Promise.all([read('Ann', 3), read('Ben', 40), read('Cem', 7)])
    expect(found.map((f) => f.report.rows)).toEqual([3, 40, 7])
  })

  it('of one person is two things at once at most; of all together there is a most, too', async () => {
    const mine = [read('Ann', 2000), read('Ann', 2000)]
    await expect(read('Ann', 1)).rejects.toMatchObject({
      code: 'busy',
      message: 'Ann has 2 heavy things under way; wait for one of them',
    })
    // Somebody else is not kept waiting by that.
    expect((await read('Ben', 1)).report.rows).toBe(1)
    await Promise.all(mine)
    expect((await read('Ann', 1)).report.rows).toBe(1)
    const all = Array.from({ length: 16 }, (_, i) => read(`Hand ${i}`, 50))
    await expect(read('Last', 1)).rejects.toMatchObject({ code: 'busy' })
    await Promise.all(all)
  })

  it('that fails says why, and the next one is done', async () => {
    await expect(work.run('Ann', jobOf<() => void>('no such job'), undefined as never)).rejects.toThrow(
      'nobody does the job “no such job”',
    )
    await expect(work.run('Ann', LOCK, { chapters: [{}], book: {} } as never)).rejects.toThrow(/TypeError/)
    expect((await read('Ann', 2)).report.rows).toBe(2)
  })

  it('that is under way when the house closes is told so', async () => {
    const closing = createWork()
    const under = closing.run('Ann', BOTTLE_ROWS, { csv: csv(5000), firstLine: 2, ingredients: [] })
    const waits = closing.run('Ben', BOTTLE_ROWS, { csv: csv(5000), firstLine: 2, ingredients: [] })
    const ended = Promise.allSettled([under, waits])
    await closing.close()
    expect((await ended).map((e) => e.status)).toContain('rejected')
  })
})
