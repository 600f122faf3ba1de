/** Several people, lost connections, killed servers: nobody loses words. */

import type { Drink, Edition } from '@conch/contract'
import { draftSaved, expect, figure, test, worksHere } from './house.ts'

test('two people on one draft: the second is told, compares, and neither loses words', async ({ demo, browser }) => {
  const open = async (role: 'Manager' | 'Lead') => {
    const context = await browser.newContext()
    await worksHere(context, role)
    const page = await context.newPage()
    await page.goto(`${demo.url}/drinks/parrot-ledger`)
    await page.getByRole('button', { name: 'Change', exact: true }).click()
    return page
  }
  const manager = await open('Manager')
  const lead = await open('Lead')
  await manager.getByRole('textbox', { name: 'Amount of Lemon juice' }).fill('1 oz')
  await draftSaved(manager)
  await lead.getByRole('textbox', { name: 'Amount of Sugar syrup 1:1 by weight' }).fill('¾ oz')

  const panel = lead.getByRole('alert').filter({ hasText: 'Manager saved this draft' })
  await expect(panel).toBeVisible()
  await expect(panel.getByRole('row', { name: /Lemon juice 1 oz ¾ oz/ })).toBeVisible()
  await expect(panel.getByRole('row', { name: /Sugar syrup 1:1 by weight ½ oz ¾ oz/ })).toBeVisible()

  // Theirs is taken: mine is one undo away.
  await panel.getByRole('button', { name: /Take theirs/ }).click()
  await expect(lead.getByRole('textbox', { name: 'Amount of Lemon juice' })).toHaveValue('1 oz')
  await lead.getByRole('button', { name: 'Undo' }).click()
  await expect(lead.getByRole('textbox', { name: 'Amount of Sugar syrup 1:1 by weight' })).toHaveValue('¾ oz')
  await draftSaved(lead)
  const drink = (await demo.send<Drink>('GET', '/api/drinks/parrot-ledger')).body
  expect(drink.draft?.savedBy).toBe('Lead')
})

test('what is written while the server is away is kept and sent later', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/night-tariff`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await demo.stop()
  await page.getByRole('textbox', { name: 'Seconds' }).fill('31')
  await expect(page.getByText('no connection: kept on this device')).toBeVisible()
  await demo.open()
  await expect(page.locator('[data-draft-status="saved"]')).toBeVisible()
  const drink = (await demo.send<Drink>('GET', '/api/drinks/night-tariff')).body
  expect(drink.draft?.document.stages[0]?.durationS).toBe(31)
})

test('a kill in the middle of saves loses nothing that was acknowledged', async ({ demo }) => {
  const acknowledged: number[] = []
  const versions: { number: number; reason: string }[] = []
  for (let round = 0; round < 3; round++) {
    let isKilled = false
    const saving = (async () => {
      let revision = (await demo.send<Drink>('GET', '/api/drinks/green-pilot')).body.draft?.revision ?? 0
      const { document } = (await demo.send<Drink>('GET', '/api/drinks/green-pilot')).body
        .versions[0] as Drink['versions'][0]
      for (let n = 1; !isKilled; n++) {
        const note = `round ${round}, save ${n}`
        const saved = await demo
          .send<{ revision: number }>('PUT', '/api/drinks/green-pilot/draft', {
            document: { ...document, note },
            revision,
            baseVersion: 1,
          })
          .catch(() => undefined)
        if (!saved) return
        expect(saved.status).toBe(200)
        revision = saved.body.revision
        acknowledged.push(revision)
        if (n % 5 === 0) {
          const version = await demo
            .send<{ number: number }>('POST', '/api/drinks/green-pilot/versions', {
              draftRevision: revision,
              reason: note,
            })
            .catch(() => undefined)
          if (!version) return
          versions.push({ number: version.body.number, reason: note })
          revision = 0
        }
      }
    })()
    // By count, not by the clock: on a slow machine nothing was acknowledged yet when the time was up.
    const enough = acknowledged.length + 6 + round
    await expect.poll(() => acknowledged.length, { intervals: [5], timeout: 60_000 }).toBeGreaterThanOrEqual(enough)
    isKilled = true
    await demo.stop('SIGKILL')
    await saving
    await demo.open()
    const drink = (await demo.send<Drink>('GET', '/api/drinks/green-pilot')).body
    for (const { number, reason } of versions)
      expect(drink.versions.find((v) => v.number === number)?.reason).toBe(reason)
    const last = acknowledged[acknowledged.length - 1] as number
    if (drink.draft) expect(drink.draft.revision).toBeGreaterThanOrEqual(last)
    else expect(drink.versions.length).toBeGreaterThan(1)
  }
  expect(acknowledged.length).toBeGreaterThan(10)
})

test('a second server on the same data stops with a plain message', async ({ demo }) => {
  const second = await demo.openSecond()
  expect(second.code).toBe(1)
  expect(second.output).toMatch(
    /^The data directory .+ is open in process \d+ on .+\. Stop that one first, or choose another directory with CONCH_DATA\.\n$/,
  )
  expect((await demo.send('GET', '/api/ready')).status).toBe(200)
})

test('closes cleanly on SIGTERM, and opens again as it was', async ({ demo }) => {
  const before = (await demo.send<Edition>('GET', '/api/editions/1')).body
  await demo.stop('SIGTERM')
  await demo.open()
  expect((await demo.send<Edition>('GET', '/api/editions/1')).body).toEqual(before)
})

test('a bartender reads and cannot change', async ({ demo, browser }) => {
  const context = await browser.newContext()
  await worksHere(context, 'Bartender')
  const page = await context.newPage()
  await page.goto(`${demo.url}/drinks/low-water-bell`)
  expect(await figure(page, 'strengthPct')).toBeGreaterThan(10)
  await expect(page.getByRole('button', { name: 'Change', exact: true })).toHaveCount(0)
  await page.goto(`${demo.url}/next`)
  await expect(page.getByRole('button', { name: 'Publish …' })).toBeDisabled()
})
