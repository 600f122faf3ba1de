/** Prep: an old recipe read, a two-level mix made with the scale, what its lot does to a drink. */

import type { ShelfPart, ShelfRows } from '@conch/contract'
import { draftSaved, expect, figure, putOnPan, test } from './house.ts'

for (const [theme, width, height] of [
  ['chart', 1280, 800],
  ['lantern', 390, 844],
] as const) {
  test(`an old recipe, a two-level mix, a sweeter lot, and what it did to the drink (${theme}, ${width}×${height})`, async ({
    demo,
    page,
  }) => {
    await page.setViewportSize({ width, height })
    await page.addInitScript((t) => localStorage.setItem('conch:theme', t), theme)
    await page.goto(`${demo.url}/drinks`)

    // Pasted as it is written: what is sure is matched, the rest asks.
    await page.getByRole('button', { name: 'Paste a spec' }).click()
    await page
      .getByLabel('The spec as text')
      .fill(
        'Quarantine Flag\n45 ml / 3 oz Tamber Gold Seal\nhalf a lime\n1 oz orgeat\n1½ oz coconut cream mix\nFlash blend with 120 g crushed ice for 4 seconds, open pour into a reed glass\nGarnish: mint',
      )
    const read = page.getByRole('list', { name: 'What was read' })
    await expect(read.getByText('3 oz (90 ml) is not 45 ml (45 ml): twice as much')).toBeVisible()
    await expect(
      read.getByText(/a count of fruit is not a measure: 26 ml each, by the house’s pressings/),
    ).toBeVisible()
    await expect(read.getByText('as written: 45 ml / 3 oz Tamber Gold Seal')).toBeVisible()
    const begin = page.getByRole('button', { name: 'Begin with this' })
    await expect(page.getByText('1 line asks something')).toBeVisible()
    await expect(begin).toBeDisabled()
    await read.getByRole('button', { name: 'Marsh & Daughter orgeat' }).click()
    await begin.click()
    await expect(page.getByRole('textbox', { name: 'Amount of Coconut cream mix' })).toHaveValue('1½ oz')
    await expect(page.getByText('stir before every pour: Coconut cream mix')).toBeVisible()
    await page.getByRole('button', { name: 'Hold this glass as the standard' }).click()
    await draftSaved(page)
    const before = await figure(page, 'sweetGPer100Ml')

    // The mix is made of a syrup that is made here, too.
    await page.goto(`${demo.url}/mixes/coconut-cream-mix`)
    await expect(page.getByRole('img', { name: /Coconut cream mix, in 100 g: sugar/ })).toBeVisible()
    await expect(page.getByText('▲ contains coconut')).toBeVisible()
    await expect(page.getByRole('link', { name: 'Quarantine Flag' })).toBeVisible()
    await page.getByRole('link', { name: 'Make a lot' }).click()
    await page.getByLabel('Size of the batch').selectOption('to a weight')
    await page.getByRole('textbox', { name: 'Yield in g' }).fill('800')
    await page.getByRole('heading', { level: 1 }).click()
    await page.keyboard.press('d')
    await expect(page.getByRole('region', { name: 'Devices' })).toBeVisible()
    const weigh = page.getByRole('list', { name: 'To weigh' })
    const planned = await weigh.getByRole('listitem').first().locator('span').first().textContent()
    await putOnPan(page, Number.parseFloat(planned ?? ''))
    await page.getByRole('button', { name: 'Take Coconut cream, unsweetened from the scale' }).click()
    await expect(weigh.getByText('g weighed')).toBeVisible()
    // The scale was tared: a heavy hand with the syrup is seen.
    await expect(page.getByLabel('The scale shows')).toHaveText('0 g')
    await putOnPan(page, Number.parseFloat(planned ?? '') + 600)
    await page.getByRole('button', { name: 'Take Rich demerara syrup from the scale' }).click()
    await expect(weigh.getByText(/g too much/)).toBeVisible()
    const prism = page.getByRole('textbox', { name: 'On the prism' })
    await prism.fill('39.4')
    await prism.press('Enter')
    await page.getByRole('button', { name: 'Read the refractometer' }).click()
    // Half made, it survives a reload.
    await page.reload()
    await expect(weigh.getByText(/g too much/)).toBeVisible()
    await page.getByRole('button', { name: 'Write the lot down' }).click()

    // The lot: what differs from the recipe, its use-by, its label.
    await expect(page.getByRole('heading', { name: 'Coconut cream mix, lot 14' })).toBeVisible()
    await expect(page.getByRole('row', { name: /dissolved, °Bx .* 39\.4 \+5\.\d/ })).toBeVisible()
    await expect(page.getByText('contains coconut')).toBeVisible()
    const label = await page.request.get(`${demo.url}/api/lots/14/label.pdf`)
    expect((await label.body()).subarray(0, 5).toString()).toBe('%PDF-')

    // The drink follows, and the margin says why.
    await page.goto(`${demo.url}/drinks/quarantine-flag`)
    await expect.poll(() => figure(page, 'sweetGPer100Ml')).toBeGreaterThan(before + 0.3)
    await expect(
      page.getByText(/Coconut cream mix, lot 14, is 5\.\d °Bx sweeter than its recipe: .*sweet \+\d\.\d g\/100 ml/),
    ).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(
      0,
    )
  })
}

test('a recipe is changed with undo, refused in a circle, kept through a reload', async ({ demo, page }) => {
  await page.goto(`${demo.url}/mixes/demerara-rich`)
  const brix = page
    .getByRole('row', { name: /dissolved/ })
    .locator('td')
    .first()
  await expect(brix).toHaveText('65.1 °Bx')
  await expect(page.getByText(/will crystallise/)).toBeVisible()
  const water = page.getByRole('textbox', { name: 'Amount of Water' })
  await water.fill('700')
  await expect(brix).toHaveText('58.2 °Bx')
  await expect(page.getByText(/will crystallise/)).toBeHidden()
  await page.reload()
  await expect(water).toHaveValue('700')
  await page.getByRole('button', { name: 'Add a component' }).click()
  await page.getByPlaceholder('rum, lime, syrup …').fill('coconut cream mix')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/goes round in a circle: Rich demerara syrup → Coconut cream mix → Rich/)).toBeVisible()
  await page.getByRole('button', { name: 'Save the recipe' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'document.recipe' })).toContainText('goes round in a circle')
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Save the recipe' }).click()
  await expect(page.getByRole('link', { name: 'Make a lot' })).toBeVisible()
  // The lot that is poured stays what it was made as.
  await expect(
    page
      .getByRole('row', { name: /dissolved/ })
      .locator('td')
      .last(),
  ).toHaveText('65.6 °Bx')
})

test('a discarded lot no longer colours the drinks it touched', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/brass-ferry`)
  await expect(page.getByText(/Honey mix: lot 2 of .* was to be used by/)).toBeVisible()
  await page.goto(`${demo.url}/lots/2`)
  await page.getByRole('button', { name: 'Discard …' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Discard it' }).click()
  await expect(page.getByText('Say in a few words why.')).toBeVisible()
  await page.getByLabel('Why').fill('a week past its date')
  await page.getByRole('dialog').getByRole('button', { name: 'Discard it' }).click()
  await expect(page.getByText('discarded: a week past its date')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Discard …' })).toHaveCount(0)
  // A wrong tap is taken back; then it is meant.
  await page.getByRole('button', { name: 'It is still there' }).click()
  await expect(page.getByText('that was a wrong tap: it is still there')).toBeVisible()
  await page.getByRole('button', { name: 'Used up' }).click()
  await expect(page.getByRole('button', { name: 'It is still there' })).toBeVisible()
  await page.goto(`${demo.url}/drinks/brass-ferry`)
  expect(await figure(page, 'strengthPct')).toBeGreaterThan(5)
  await expect(page.getByText(/was to be used by/)).toHaveCount(0)
})

test('a table of bottles is looked at row by row before anything is kept', async ({ demo, page }, info) => {
  const { writeFileSync } = await import('node:fs')
  const file = info.outputPath('bottles.csv')
  const rows = Array.from({ length: 900 }, (_, i) => `Crate Rum ${i},${i === 450 ? '300' : '80 proof'},70 cl`)
  writeFileSync(file, `name,strength,size\n${rows.join('\n')}\n`)
  const before = (await demo.send<ShelfRows>('GET', '/api/shelf/rows?limit=1')).body.total
  await page.goto(`${demo.url}/back-bar`)
  await page.getByRole('button', { name: 'As a table …' }).click()
  await page.getByLabel('Look at a file …').setInputFiles(file)
  const found = page.getByRole('region', { name: 'What was found' })
  await expect(found.getByText('900 rows, 899 new')).toBeVisible()
  await expect(found.getByRole('row', { name: '452 strength “300” is 300 % ABV; at most 100' })).toBeVisible()
  expect(
    (await demo.send<ShelfPart>('GET', '/api/shelf?of=crate-rum-1')).body.ingredients.some(
      (i) => i.slug === 'crate-rum-1',
    ),
  ).toBe(false)
  await found.getByRole('button', { name: 'Keep the 899 good rows' }).click()
  await expect(page.getByText(`${before + 899} things`)).toBeVisible()
  await page.getByLabel('Find on the back bar').fill('crate rum 77')
  await page.getByLabel('Pick Crate Rum 77', { exact: true }).check()
  await page.getByLabel('Set the stock of what is picked').selectOption('out')
  await expect(page.getByRole('row', { name: /Crate Rum 77 out/ })).toBeVisible()
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.getByRole('row', { name: /Crate Rum 77 out/ })).toHaveCount(0)
})

test('a line typed as books write it, an odd amount, another syrup as sweet', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/low-water-bell`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  const typed = page.getByLabel('Type a line')
  await typed.fill('2 dashes spiced bitters')
  await expect(page.getByText('2 dashes Spiced bitters: press Enter')).toBeVisible()
  await typed.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Amount of Spiced bitters' })).toHaveValue('2 dashes')
  await typed.fill('22,5 ml moonwater')
  await expect(page.getByText('nothing on the back bar is called “moonwater”')).toBeVisible()
  await typed.press('Escape')

  const orgeat = page.getByRole('textbox', { name: 'Amount of Fennick orgeat' })
  await orgeat.fill('15 oz')
  await expect(page.getByText(/15 oz of Fennick orgeat: this house pours \d+(\.\d)? to \d+ ml/)).toBeVisible()
  await orgeat.blur()
  await page.getByRole('button', { name: 'take 15 ml' }).click()
  await expect(orgeat).toHaveValue('15 ml')
  await expect(page.getByText('this house pours')).toHaveCount(0)

  const sweet = await figure(page, 'sweetGPer100Ml')
  await page.getByRole('button', { name: 'More for Fennick orgeat' }).click()
  await page.getByRole('menuitem', { name: 'Another one, as sweet …' }).click()
  await expect(
    page.getByRole('row', { name: /Marsh & Daughter orgeat small jigger 22\.5 21\.1 ml \+7\.5 ml/ }),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Pour Marsh & Daughter orgeat' }).click()
  await expect(page.getByRole('textbox', { name: 'Amount of Marsh & Daughter orgeat' })).toHaveValue('22.5 ml')
  await expect.poll(() => figure(page, 'sweetGPer100Ml')).not.toBe(sweet)
  expect(Math.abs((await figure(page, 'sweetGPer100Ml')) - sweet)).toBeLessThan(0.6)
})

test('a juice is sharpened, a cordial fortified, a dash measured, fruit pressed', async ({ demo, page }) => {
  await page.goto(`${demo.url}/mixes/passion-honey`)
  const row = (name: RegExp) => page.getByRole('row', { name }).locator('td').first()
  await page.getByRole('button', { name: 'Sharpen …' }).click()
  await page.getByRole('textbox', { name: 'Target acid' }).fill('1')
  await expect(page.getByText(/It cannot be: it has 1\.8\d g\/100 ml already/)).toBeVisible()
  await page.getByRole('button', { name: 'as sharp as our lime' }).click()
  await page.getByRole('button', { name: 'Put it into the recipe' }).click()
  await expect(row(/acid, g\/100 ml/)).toHaveText('5.90')
  await page.getByRole('button', { name: 'Fortify …' }).click()
  await page.getByRole('textbox', { name: 'Target strength' }).fill('18')
  await page.getByRole('button', { name: 'Put it into the recipe' }).click()
  await expect(row(/strength/)).toHaveText('18.0')

  await page.goto(`${demo.url}/house`)
  await page.getByRole('button', { name: 'Measure the drop' }).click()
  await page.getByRole('textbox', { name: 'Weight of the water' }).fill('900')
  await expect(page.getByText(/900 g in 50 make no drop: one is 0\.01 to 0\.3 ml/)).toBeVisible()
  await page.getByRole('textbox', { name: 'Weight of the water' }).fill('2.4')
  await page.getByRole('button', { name: 'Use it from now on' }).click()
  await expect(page.getByText(/drop 0\.048 ml measured/)).toBeVisible()

  await page.goto(`${demo.url}/mixes/lemon-juice/make`)
  await expect(page.getByText('assumed: nobody has pressed it here')).toBeVisible()
  await page.getByRole('textbox', { name: 'Fruit pressed' }).fill('20')
  await page.getByRole('textbox', { name: 'Yield in ml' }).fill('900')
  await page.getByRole('button', { name: 'Write the lot down' }).click()
  await expect(page.getByText('pressed from 20 fruit')).toBeVisible()
  await page.goto(`${demo.url}/mixes`)
  await expect(page.getByRole('region', { name: 'Pressed juice' }).getByText('45 ml a fruit')).toBeVisible()
})
