import { expect, test } from './house.ts'

const OLD_CARD = `Four Lanterns
Serves 4
6 oz Causeway Amber
4 oz pineapple juice
Juice of 3 limes
2 oz tamarind syrup
2 sprays saline
Shake hard with cubes 12 s, strain over crushed ice
Top with 4 oz soda water
Float 2 oz Sootwharf Black
Garnish: none
my aunt swore by it`

const SLOW_SHELF_MS = 1500

for (const [theme, width, height] of [
  ['chart', 1280, 800],
  ['lantern', 390, 844],
] as const)
  test(`an old card for four becomes one serve, nothing of it lost (${theme}, ${width}×${height})`, async ({
    demo,
    page,
  }) => {
    await page.setViewportSize({ width, height })
    await page.addInitScript((t) => localStorage.setItem('conch:theme', t), theme)
    await page.goto(`${demo.url}/drinks`)
    await page.getByRole('button', { name: 'Paste a spec' }).click()
    await page.getByLabel('The spec as text').fill(OLD_CARD)
    const begin = page.getByRole('button', { name: 'Begin with this' })
    const rows = page.getByRole('list', { name: 'What was read' }).getByRole('listitem')
    await expect(rows).toHaveCount(7)
    await expect(rows.filter({ hasText: 'Sootwharf Black' })).toContainText('float')
    await expect(rows.filter({ hasText: 'Soda water' })).toContainText('in the glass')
    await expect(begin).toBeDisabled()
    await expect(page.getByRole('status')).toHaveText('3 lines ask something')

    await page.getByRole('button', { name: /^one serve of it/ }).click()
    await page.getByRole('button', { name: 'a note' }).click()
    // What the house lacks is not taken for something else; it is put on the shelf from here.
    await page.getByRole('button', { name: 'put “tamarind syrup” on the shelf …' }).click()
    const shelf = page.getByRole('dialog', { name: 'New on the shelf' })
    await expect(shelf.getByLabel('Name', { exact: true })).toHaveValue('tamarind syrup')
    await expect(shelf.getByLabel('How sugar is known')).toHaveValue('unknown')
    await expect(shelf.getByLabel('Strength', { exact: true })).toHaveValue('0')
    // The shelf is slow to answer: nothing may begin before the new thing is known.
    await page.route('**/api/shelf?*', async (route) => {
      await new Promise((done) => setTimeout(done, SLOW_SHELF_MS))
      await route.continue()
    })
    await shelf.getByRole('button', { name: 'Save' }).click()
    await expect(shelf).toBeHidden()
    await expect(
      rows.filter({ hasText: '2 oz tamarind syrup' }).getByRole('button', { name: 'tamarind syrup' }),
    ).toBeVisible()

    await page.getByLabel('Glass', { exact: true }).selectOption({ label: 'quay tumbler' })
    await begin.click()
    await expect(page.getByLabel('Amount of Causeway Amber')).toHaveValue('1½ oz')
    await page.unrouteAll({ behavior: 'wait' })
    await expect(page.getByLabel('Amount of Sootwharf Black')).toHaveValue('½ oz')
    await expect(page.getByLabel('Note')).toHaveValue('my aunt swore by it')
    // Ice that nobody wrote the weight of is one tin's, not a quarter of it; the glass is filled up to its line.
    await expect(page.getByLabel('Grams of cubes, ice')).toHaveValue('180')
    await expect(page.getByText('(strain over crushed ice)')).toBeVisible()
    const figures = page.getByRole('table', { name: 'In the glass' })
    await expect(figures.getByRole('row', { name: /^wash line/ })).toContainText('85 %')
    // ... and stays so when more is poured, with less ice.
    const serving = page.getByLabel('Grams of crushed, serving ice')
    const filledG = Number(await serving.inputValue())
    const rum = page.getByLabel('Amount of Causeway Amber')
    await rum.fill('2½ oz')
    await rum.press('Enter')
    await expect.poll(async () => Number(await serving.inputValue())).toBeLessThan(filledG - 10)
    await expect(figures.getByRole('row', { name: /^wash line/ })).toContainText('85 %')
    await rum.fill('1½ oz')
    await rum.press('Enter')
    await expect(serving).toHaveValue(String(filledG))
    // How sweet it is nobody knows: then it is not held against how sour.
    await expect(figures.getByTestId('balance')).toHaveCount(0)
    const follows = page.getByRole('region', { name: 'What follows from it' })
    await expect(follows).toContainText('without the sugar of tamarind syrup')
    await expect(figures.getByRole('row', { name: /^after 10 min/ })).toContainText(/ ± 0\.\d/)

    // Ice as a bar says it; what is no amount says why.
    const ice = page.getByLabel('Grams of cubes, ice')
    await ice.fill('1½ cups')
    await ice.press('Enter')
    await expect(ice).toHaveValue('172')
    await expect(page.getByText('(1½ cups)')).toBeVisible()
    await ice.fill('a heap')
    await expect(page.getByRole('alert')).toContainText('write it like 180 g, 2 scoops, 1½ cups')
    await ice.press('Escape')
  })
