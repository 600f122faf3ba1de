/** The base of a drink: a missing bottle, its stand-in, the blend made of it, batched, labelled and poured. */

import type { ShelfPart, ShownDrink } from '@conch/contract'
import { draftSaved, expect, figure, putOnPan, takeOver, test } from './house.ts'

for (const [theme, width, height] of [
  ['chart', 1280, 800],
  ['lantern', 390, 844],
] as const) {
  test(`a bottle that is out: its stand-in, blended, batched for the night, labelled, poured (${theme}, ${width}×${height})`, async ({
    demo,
    page,
  }) => {
    await page.setViewportSize({ width, height })
    await page.addInitScript((t) => localStorage.setItem('conch:theme', t), theme)
    await page.goto(`${demo.url}/drinks/ember-customs`)

    // The drink says that its bottle is out, and where to look.
    await expect(page.getByText('Kiln Dried Overproof is out')).toBeVisible()
    const before = await figure(page, 'strengthPct')
    await page.getByRole('link', { name: 'stand-in' }).click()
    await expect(page.getByRole('heading', { level: 1, name: 'Instead of Kiln Dried Overproof' })).toBeVisible()
    const answers = page.getByRole('list', { name: 'All answers' })
    await expect(answers.getByText('none within 1.2 steps')).toBeVisible()
    await expect(page.getByText(/mixtures of \d+ bottles compared, none skipped/)).toBeVisible()
    // The look-alike of the same strength is not an answer by itself.
    const two = answers.getByRole('listitem').filter({ hasText: 'two bottles' })
    await expect(two).toContainText('15 ml Brackwater Heavy Overproof')
    await expect(two).toContainText('15 ml Pitchwork Overproof')
    await two.getByRole('button', { name: 'look at it' }).click()

    // What it does in the glass, and the seconds that hold the strength.
    const glass = page.getByRole('region', { name: 'In the glass' })
    await expect(glass.getByText(/holds its strength|The seconds stay/)).toBeVisible()

    // One bottle of the two, under a name, in place of the missing one.
    await page.getByRole('button', { name: 'Make a blend of it …' }).click()
    await page.getByLabel('Name').fill('Kiln Understudy')
    await page.getByRole('button', { name: 'Make it' }).click()
    await expect(page.getByRole('textbox', { name: 'Amount of Kiln Understudy' })).toHaveValue('1 oz')
    await draftSaved(page)
    const after = await figure(page, 'strengthPct')
    expect(Math.abs(after - before)).toBeLessThan(1)

    // For tonight: so many drinks, weighed, labelled.
    await page.goto(`${demo.url}/blends/kiln-understudy`)
    await expect(page.getByRole('region', { name: 'Profile' })).toBeVisible()
    await page.getByRole('link', { name: 'Make a lot' }).click()
    await page.getByLabel('Size of the batch').selectOption('bottles to fill')
    await page.getByRole('textbox', { name: 'Bottles' }).fill('2')
    await page.getByRole('heading', { level: 1 }).click()
    await page.keyboard.press('d')
    await expect(page.getByRole('region', { name: 'Devices' })).toBeVisible()
    const toWeigh = page.getByRole('list', { name: 'To weigh' }).getByRole('listitem')
    await expect(toWeigh).toHaveCount(2)
    // The bowl stays on the pan: each comes on top of what is there, and the scale is tared between.
    let onPanG = 0
    for (const row of await toWeigh.all()) {
      const planned = Number(/([\d.]+) g/.exec((await row.textContent()) ?? '')?.[1])
      expect(planned).toBeGreaterThan(500)
      onPanG += planned
      await putOnPan(page, onPanG)
      await row.getByRole('button', { name: /from the scale/ }).click()
      await expect(row.getByText('weighed')).toBeVisible()
    }
    // Half made, it survives a reload.
    await page.reload()
    await expect(page.getByText(/half made: kept on this device/)).toBeVisible()
    await page.getByRole('button', { name: 'Write the lot down' }).click()
    await expect(page.getByRole('heading', { level: 1, name: 'Kiln Understudy, lot 14' })).toBeVisible()
    const [label] = await Promise.all([page.waitForEvent('popup'), page.getByRole('link', { name: 'Label' }).click()])
    await label.close()
    await expect(page.getByText('a label was printed')).toBeVisible()

    // Poured: the version says the blend, and its page says where it is used.
    await page.goto(`${demo.url}/drinks/ember-customs`)
    await page.getByRole('button', { name: 'Save version' }).click()
    await page.getByLabel('Why').fill('Kiln Dried is out; two bottles as one')
    await page.getByRole('dialog').getByRole('button', { name: /Save/ }).click()
    await expect(page.getByRole('button', { name: 'Change', exact: true })).toBeVisible()
    await expect(page.getByText('Kiln Dried Overproof is out')).toHaveCount(0)
    await expect(page.locator('[data-pour="kiln-understudy"]')).toBeVisible()
    await page.goto(`${demo.url}/blends/kiln-understudy`)
    await expect(page.getByText(/lot 14/).first()).toBeVisible()
  })
}

test('a blend is cut on the split bar, refused when it is none, taken back, and its old recipe put back', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/blends/third-bell`)
  const strength = page.getByLabel('Figures').getByText(/% ABV/)
  await expect(strength).toHaveText('44.0 % ABV')
  // The handle snaps to what a jigger pours: from 40 ml it goes to the next quarter ounce.
  const handle = page.getByRole('slider', { name: 'Between Tamber Lightly Aged and Weirkeeper Pot Still' })
  await handle.focus()
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByRole('textbox', { name: 'Amount of Weirkeeper Pot Still' })).not.toHaveValue('1')
  await page.keyboard.press('ArrowLeft')
  await expect(strength).not.toHaveText('44.0 % ABV')
  await page.getByLabel('Why it is changed').fill('more pot still')
  await page.getByRole('button', { name: 'Save the recipe' }).click()
  await expect(page.getByRole('region', { name: 'Earlier recipes' })).toContainText('more pot still')

  // Nothing of a spirit is no part of a blend: the server says so, naming it.
  await page.getByRole('textbox', { name: 'Amount of Weirkeeper Pot Still' }).fill('0')
  await page.getByRole('button', { name: 'Save the recipe' }).click()
  await expect(page.getByRole('alert')).toContainText('0 is no part; more than 0')
  await page.getByRole('button', { name: 'Drop' }).click()

  await page.getByRole('region', { name: 'Earlier recipes' }).getByRole('button', { name: 'put it back' }).click()
  await expect(strength).toHaveText('44.0 % ABV')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(strength).not.toHaveText('44.0 % ABV')

  // In a drink: one bottle for its lines, and back.
  await page.goto(`${demo.url}/drinks/sluice-gate-roster`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByRole('button', { name: 'More for Ferry Nine' }).click()
  await page.getByRole('menuitem', { name: 'Its own bottles, one line each' }).click()
  await expect(page.locator('[data-pour="verdelis-cane"]')).toBeVisible()
  await page.getByRole('button', { name: 'Pour it as one bottle' }).click()
  await expect(page.getByRole('textbox', { name: 'Amount of Ferry Nine' })).toHaveValue('2 oz')
})

test('a slot is made, refuses the look-alike with a reason, and is poured from what is on the shelf', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/slots/new`)
  await page.getByRole('textbox', { name: 'Name of the slot' }).fill('Sweet gold')
  await page.getByRole('button', { name: 'Begin' }).click()
  await page.getByRole('textbox', { name: 'Highest strength' }).fill('30')
  await page.getByRole('heading', { level: 1 }).click()
  await expect(page.getByText('the low end is above the high one')).toBeVisible()
  await page.getByRole('button', { name: 'Save the slot' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'a slot needs a candidate' })).toBeVisible()
  await expect(page.getByRole('alert').filter({ hasText: '38 to 30 % is no band' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Highest strength' }).fill('44')

  const add = async (button: string, name: string) => {
    await page.getByRole('button', { name: button }).click()
    const field = page.getByRole('combobox', { name: 'Find an ingredient' })
    await field.fill(name)
    await page.keyboard.press('Enter')
    await expect(field).toHaveCount(0)
  }
  await add('Add a candidate', 'goldweigher')
  await add('Add a candidate', 'lockgate')
  await page.getByRole('radio', { name: 'Lockgate Gold at the Courtyard' }).check()
  await page
    .locator('[data-axis="dryness"] .cursor-pointer')
    .first()
    .click({ position: { x: 120, y: 20 } })
  await add('Refuse a bottle …', 'dredger')
  await page.getByLabel('Why').fill('black, whatever the label says')
  await page.getByRole('button', { name: 'Refuse it' }).click()
  await page.getByRole('button', { name: 'Save the slot' }).click()
  // Saved: there is nothing left to save.
  await expect(page.getByRole('button', { name: 'Save the slot' })).toHaveCount(0)
  await expect(page).toHaveURL(/slots\/sweet-gold$/)
  await expect(page.getByText('tonight at the Hearth:')).toBeVisible()

  // A line names the slot: each well pours its own.
  await page.goto(`${demo.url}/drinks/parrot-ledger`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByRole('button', { name: 'Tamber Lightly Aged' }).first().click()
  await page.getByRole('combobox', { name: 'Find an ingredient' }).fill('sweet gold')
  await page.keyboard.press('Enter')
  const line = page.locator('[data-pour="sweet-gold"]')
  await expect(line).toContainText('Goldweigher')
  await page.getByRole('button', { name: 'Courtyard', exact: true }).click()
  await expect(line).toContainText('Lockgate Gold')
  await draftSaved(page)

  // The bottle runs out: the next one is poured, and the drink says so.
  const shelf = (await demo.send<ShelfPart>('GET', '/api/shelf?of=lockgate-gold')).body
  const gold = shelf.ingredients.find((i) => i.slug === 'lockgate-gold')
  const saved = await page.request.put(`${demo.url}/api/ingredients/lockgate-gold`, {
    headers: { origin: demo.url },
    data: { document: { ...gold, stock: 'out' }, revision: shelf.revisions['lockgate-gold'] },
  })
  expect(saved.ok()).toBe(true)
  await page.reload()
  await expect(page.getByText('Sweet gold: Lockgate Gold is out, Goldweigher is poured')).toBeVisible()
})

test('a flight is tasted by two, averaged, and where they disagree it shows', async ({ demo, page }) => {
  const taste = async (places: [string, number][]) => {
    await page.goto(`${demo.url}/flight?with=orlop-white,saltmarsh-silver`)
    for (const [bottle, x] of places) {
      await page.getByRole('list', { name: 'Bottles' }).getByRole('button', { name: bottle }).first().click()
      await page.locator('[data-axis="smoke"] .cursor-pointer').click({ position: { x, y: 20 } })
    }
    // Half placed, it survives a reload.
    await page.reload()
    const letter = page.getByRole('slider', { name: 'Orlop White, smoke' })
    await expect(letter).toHaveAttribute('aria-valuetext', /from none to tar and ash/)
    await page.getByRole('button', { name: 'Write it down' }).click()
    await expect(page).toHaveURL(/base$/)
  }
  await taste([
    ['A Orlop White', 10],
    ['B Saltmarsh Silver', 60],
  ])
  await takeOver(page, 'Lead')
  await taste([
    ['A Orlop White', 500],
    ['B Saltmarsh Silver', 60],
  ])
  const { flights } = (await demo.send<{ flights: { by: string }[] }>('GET', '/api/flights?limit=2')).body
  expect(flights.map((f) => f.by)).toEqual(['Lead', 'Manager'])
  await page.goto(`${demo.url}/slots/light-mixing`)
  await expect(page.getByText(/steps or more where it is red: taste it again together/)).toBeVisible()
  // One bottle alone compares with nothing.
  await page.goto(`${demo.url}/flight`)
  await expect(page.getByRole('button', { name: 'Write it down' })).toBeDisabled()
})

test('what is sealed is not there for a bartender: not on a page, not on the device', async ({ demo, page }) => {
  // However late the names come, a batch is dealt to somebody.
  await page.route('**/api/people', async (route) => {
    await new Promise((done) => setTimeout(done, 2000))
    await route.continue()
  })
  await page.goto(`${demo.url}/blends/ebb-ledger`)
  await expect(page.getByRole('button', { name: 'sealed' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Amount of Sootwharf Black' }).fill('2.25')
  await draftSaved(page)
  await page.getByRole('button', { name: 'Drop' }).click()
  await page.getByRole('button', { name: 'In two hands …' }).click()
  await page.getByRole('button', { name: 'Deal the sheets' }).click()
  await expect(page.getByRole('region', { name: 'Sheet of Lead' })).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()
  await page.getByRole('textbox', { name: 'Amount of Sootwharf Black' }).fill('2.75')
  await draftSaved(page)

  await takeOver(page, 'Bartender')
  await expect(page.getByText('Sealed: what it is made of is for managers.')).toBeVisible()
  await expect(page.getByText(/% ABV/)).toBeVisible()
  const sheet = page.getByRole('region', { name: 'Sheet of Bartender Hearth' })
  await expect(sheet).toBeVisible()
  const lines = (await sheet.getByRole('listitem').allTextContents()).join()
  expect(lines).toMatch(/^\d+ g[A-D],\d+ g[A-D]$/)
  // Nothing of its bottles is anywhere on the page, nor lies on the device.
  const text = await page.locator('body').innerText()
  for (const name of ['Sootwharf Black', 'Bellfounder Pot Aged', 'Long Tally Twelve', 'Brackwater Heavy Overproof'])
    expect(text).not.toContain(name)
  const stored = await page.evaluate(() => JSON.stringify({ ...localStorage }))
  expect(stored).not.toContain('2.75')
  expect(stored).not.toContain('bellfounder')
  await page.goto(`${demo.url}/stand-in?bottle=ebb-ledger`)
  await expect(page.getByText('How near something comes to it would tell what is in it.')).toBeVisible()

  // A lead has the other half, and writes the lot down; the manager finds a whole one.
  await takeOver(page, 'Lead')
  await page.goto(`${demo.url}/mixes/ebb-ledger/make`)
  await expect(page.getByRole('region', { name: 'Sheet of Lead' }).getByRole('listitem')).toHaveCount(2)
  await expect(page.getByRole('list', { name: 'To weigh' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Write the lot down' }).click()
  await expect(page.getByRole('heading', { level: 1, name: /Ebb Ledger, lot 14/ })).toBeVisible()
  await takeOver(page, 'Manager')
  await expect(page.getByRole('table', { name: 'Weighed in' })).toContainText('Sootwharf Black')
})

test('drinks, versions and blends are compared in one chart, two of them side by side', async ({ demo, page }) => {
  await page.goto(`${demo.url}/compare`)
  const chosen = page.getByRole('list', { name: 'In the chart' })
  const well = 'hearth'
  const { drinks } = (await demo.send<{ drinks: ShownDrink[] }>('GET', `/api/shown-drinks?well=${well}&menu=yes`)).body
  await expect(chosen.getByRole('listitem')).toHaveCount(drinks.length)
  for (const name of ['low water bell, v1', 'third bell']) {
    await page.getByRole('button', { name: 'Put in …' }).click()
    const field = page.getByRole('combobox', { name: 'Find something to compare' })
    await field.fill(name)
    await page.keyboard.press('Enter')
    await expect(field).toHaveCount(0)
  }
  await expect(chosen.getByRole('listitem')).toHaveCount(drinks.length + 2)
  const side = page.getByRole('complementary', { name: 'Side by side' })
  await expect(side.getByRole('heading', { name: 'Low Water Bell, v1' })).toBeVisible()
  await expect(side.getByRole('heading', { name: 'Third Bell' })).toBeVisible()
  await page.getByRole('button', { name: 'Green Pilot', exact: true }).click()
  await expect(side.getByRole('heading', { name: 'Low Water Bell, v1' })).toHaveCount(0)
  // The address carries it: another person sees the same.
  await page.reload()
  await expect(side.getByRole('heading', { name: 'Green Pilot' })).toBeVisible()
  await page.getByRole('combobox', { name: 'What the chart shows' }).selectOption('strength against sweet')
  await expect(page.getByRole('img', { name: /by strength against sweet/ })).toBeVisible()
})
