/** The ice bench: trials weighed with wet hands, a station that drifts, and the seconds that follow from it. */

import type { Drink, House, Trials } from '@conch/contract'
import type { Page } from '@playwright/test'
import { draftSaved, expect, figure, putOnPan, test } from './house.ts'

/** Takes what the pan holds for one step of the sheet. */
async function weigh(page: Page, grams: number, step: string) {
  await putOnPan(page, grams)
  await page.getByRole('button', { name: `${step} from the scale` }).click()
}

for (const [theme, width, height] of [
  ['chart', 1280, 800],
  ['lantern', 390, 844],
] as const) {
  test(`a drifting mixer: a trial is weighed, the station learned anew, the drink gets its seconds (${theme}, ${width}×${height})`, async ({
    demo,
    page,
  }) => {
    await page.setViewportSize({ width, height })
    await page.addInitScript((t) => localStorage.setItem('conch:theme', t), theme)
    await page.goto(`${demo.url}/ice`)
    // What drifts, and which drinks that takes out of their standard.
    await expect(page.getByText(/drifting: 2 newer trials say \d+ % more water/).first()).toBeVisible()
    await expect(page.getByRole('list', { name: 'Drinks that leave their standard' })).toContainText('Tide Clerk')
    await page.getByRole('link', { name: 'Old drink mixer, Courtyard' }).click()
    await expect(page.getByRole('row', { name: /does not drain/ })).toBeVisible()

    // A trial, with the simulated scale, thermometer and the clock on the sheet.
    await page.getByRole('link', { name: 'Weigh a trial' }).click()
    await page.getByRole('button', { name: 'What is made' }).click()
    await page.getByRole('combobox', { name: 'Find what is made' }).fill('tide')
    await page.getByRole('option', { name: /Tide Clerk/ }).click()
    await page.keyboard.press('Escape')
    await page.getByRole('heading', { level: 1 }).click()
    await page.keyboard.press('d')
    await expect(page.getByRole('region', { name: 'Devices' })).toBeVisible()
    await weigh(page, 112, 'Liquid before')
    await weigh(page, 112 + 100, 'Ice 1 weighed')
    await weigh(page, 112 + 100 + 30, 'Ice 2 weighed')
    await page.getByRole('button', { name: 'Start' }).click()
    await page.waitForTimeout(700)
    await page.getByRole('button', { name: /^Stop/ }).click()
    const seconds = page.getByRole('textbox', { name: 'Seconds of work' })
    expect(Number(await seconds.inputValue())).toBeGreaterThanOrEqual(0.6)
    await seconds.fill('6')
    await seconds.blur()
    // Half made, it survives a reload.
    await page.reload()
    await expect(page.getByText(/half made: kept on this device/)).toBeVisible()
    await expect(page.getByRole('textbox', { name: 'Liquid before' })).toHaveValue('112')
    // More than went in cannot come out: said at the scale, and nothing is sent.
    const write = page.getByRole('button', { name: 'Write the trial down' })
    await expect(page.getByRole('region', { name: 'Devices' })).toBeVisible()
    await weigh(page, 400, 'Liquid after')
    await expect(page.getByText('400 g came out of 112 g and 130 g of ice; at most 242 g')).toBeVisible()
    await expect(write).toBeDisabled()
    const after = page.getByRole('textbox', { name: 'Liquid after' })
    await after.fill('178')
    await after.blur()
    await page.getByRole('textbox', { name: 'At the probe' }).fill('1.5')
    await page.getByRole('button', { name: 'the drink from the thermometer' }).click()
    await expect(page.getByText(/g of water where \d+ g were expected/)).toBeVisible()
    await write.click()

    // Learned anew from the trials since the bin began to leak.
    await expect(page.getByRole('heading', { level: 1, name: 'Old drink mixer' })).toBeVisible()
    await expect(page.getByText(/drifting: 3 newer trials/)).toBeVisible()
    const since = page.getByLabel('only since')
    const newest = (await since.locator('option').allTextContents()).slice(-3)[0] as string
    await since.selectOption(newest)
    await page.getByRole('button', { name: 'Count on these 3 trials' }).click()
    await expect(page.getByText(/a first word: ±\d+ %, 3 trials/)).toBeVisible()
    await page.goto(`${demo.url}/ice`)
    await expect(page.getByText('Nothing: no newer trials speak against')).toBeVisible()

    // The same glass at the Courtyard: fewer seconds than were written, and into the draft with them.
    await page.goto(`${demo.url}/drinks/tide-clerk/bench`)
    const courtyard = page.locator('[data-well="courtyard"]')
    await expect(courtyard.getByText(/[\d.]+ s to [\d.]+ s/).first()).toBeVisible()
    const use = courtyard.getByRole('button', { name: /^Use/ })
    const solvedS = Number(/Use ([\d.]+) s/.exec((await use.textContent()) ?? '')?.[1])
    expect(solvedS).toBeLessThan(4.25)
    await use.click()
    await draftSaved(page)
    const { body } = await demo.send<Drink>('GET', '/api/drinks/tide-clerk')
    expect(body.draft?.document.stages[0]?.byWell?.courtyard?.durationS).toBeCloseTo(solvedS, 1)
    expect((await demo.send<Trials>('GET', '/api/trials')).body.trials.at(-1)?.document.afterG).toBe(178)
  })
}

test('a trial that does not belong is left out with a reason, and taken in again', async ({ demo, page }) => {
  await page.goto(`${demo.url}/ice/hearth/mixer`)
  await expect(page.getByText('left out: the tin was tared with its spoon in it')).toBeVisible()
  await page.getByRole('button', { name: 'Leave trial 2 out' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Leave it out' }).click()
  await expect(page.getByText('Say in a few words why.')).toBeVisible()
  await page.getByLabel('Why').fill('a wet cloth on the scale')
  await page.getByRole('dialog').getByRole('button', { name: 'Leave it out' }).click()
  await expect(page.getByText('left out: a wet cloth on the scale')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Count on these 5 trials' })).toBeVisible()
  await page.getByRole('button', { name: 'Take trial 2 in' }).click()
  await expect(page.getByRole('button', { name: 'Count on these 6 trials' })).toBeVisible()
})

test('another method to the same standard, the curves of both, and how often a hand lands', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/low-water-bell/bench`)
  const methods = page.getByRole('region', { name: 'By another method' })
  await expect(methods.getByRole('row', { name: /flash blend as it is written/ })).toBeVisible()
  await expect(methods.getByRole('row', { name: /^whip shake/ })).toContainText('less ice in the glass')
  const curves = page.getByRole('region', { name: 'Curves' })
  await curves.getByLabel('Lay over it').selectOption('stir')
  await expect(curves.getByRole('img', { name: /dilution.* at hand-over against seconds/ })).toContainText('stir')
  await curves.getByRole('button', { name: 'in the hand' }).click()
  await expect(curves.getByText('From hand-over at 22 °C.')).toBeVisible()

  const lands = page.getByRole('region', { name: 'How often it lands' })
  const run = lands.getByRole('button', { name: 'Make it 10,000 times' })
  await run.click()
  await lands.getByRole('button', { name: 'Stop' }).click()
  await expect(run).toBeVisible()
  await expect(lands.getByText(/of 100/)).toHaveCount(0)
  await lands.getByLabel('Whose hand').selectOption('new hand')
  await run.click()
  await expect(lands.getByText(/\d+ of 100/).first()).toBeVisible()
  const newHand = Number(/(\d+) of 100/.exec((await lands.textContent()) ?? '')?.[1])
  await lands.getByLabel('Whose hand').selectOption('steady hand')
  await run.click()
  await expect
    .poll(async () => Number(/(\d+) of 100/.exec((await lands.textContent()) ?? '')?.[1]))
    .toBeGreaterThan(newHand + 5)
  await expect(lands.getByText(/One change helps most|No single change/)).toBeVisible()

  // Typed by hand: a band the wrong way round is refused, a narrower one is held, in the draft.
  await page.getByRole('button', { name: 'Type it …' }).click()
  const low = page.getByRole('textbox', { name: 'strength, low' })
  await low.fill('40')
  await expect(page.getByText('strength: the low end must not be above the high end.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Hold this still' })).toBeDisabled()
  await low.fill('16.5')
  await page.getByRole('checkbox', { name: 'wash line' }).check()
  await page.getByRole('button', { name: 'Hold this still' }).click()
  await draftSaved(page)
  const standard = (await demo.send<Drink>('GET', '/api/drinks/low-water-bell')).body.draft?.document.standard
  expect(standard?.strengthPct).toEqual({ low: 16.5, high: 17.8 })
  expect(standard?.washLinePct).toBeDefined()
  await page.goto(`${demo.url}/drinks/low-water-bell/bench`)

  await methods.getByRole('button', { name: 'Use hard shake' }).click()
  await expect(page.getByRole('combobox', { name: 'Method', exact: true })).toHaveValue('hardShake')
  await draftSaved(page)
})

test('a speed belongs to the machine of its well; bursts and waiting to the spec', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/low-water-bell`)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  const before = await figure(page, 'dilutionPct')
  await page.getByRole('button', { name: '+ bursts, waiting' }).click()
  await page.getByRole('combobox', { name: 'Speed', exact: true }).selectOption('low')
  await expect.poll(() => figure(page, 'dilutionPct')).toBeLessThan(before)
  const slow = await figure(page, 'dilutionPct')
  const waits = page.getByRole('textbox', { name: 'Ice waits' })
  await waits.fill('60')
  await waits.blur()
  await expect.poll(() => figure(page, 'dilutionPct')).toBeGreaterThan(slow)
  await draftSaved(page)
  // The other well's mixer has no such speed, and is not asked for it.
  await page.getByRole('button', { name: 'Courtyard' }).click()
  await expect(page.getByText('there is no speed')).toHaveCount(0)
  await expect.poll(() => figure(page, 'dilutionPct')).toBeGreaterThan(0)
  const stage = (await demo.send<Drink>('GET', '/api/drinks/low-water-bell')).body.draft?.document.stages[0]
  expect(stage).toMatchObject({ waitS: 60, byWell: { hearth: { speed: 'low' } } })
  expect(stage?.speed).toBeUndefined()
})

test('every drink in every glass: what runs over, and a spec scaled to another glass', async ({ demo, page }) => {
  await page.goto(`${demo.url}/ice/glasses`)
  const over = page.getByRole('button', { name: /Low Water Bell in the bell stem: Hearth runs over by \d+ ml/ })
  await over.click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByText(/runs over by/).first()).toBeVisible()
  await dialog.getByRole('button', { name: 'Scale the spec to this glass' }).click()
  await expect(page).toHaveURL(/drinks\/low-water-bell/)
  await draftSaved(page)
  const { body } = await demo.send<Drink>('GET', '/api/drinks/low-water-bell')
  expect(body.draft?.document.glass).toBe('bell-stem')
  const limeMl = (d: Drink['versions'][number]['document'] | undefined) => {
    const amount = d?.pours.find((p) => p.ingredient === 'lime-juice')?.amount
    return (amount?.value ?? Number.NaN) * (amount?.unit === 'oz' ? 30 : 1)
  }
  expect(limeMl(body.draft?.document)).toBeLessThan(limeMl(body.versions.at(-1)?.document))
  await expect(page.getByText(/overflows/)).toHaveCount(0)
})

test('a well is made, its ice weighed wet and dry, a scoop and a glass measured on the scale', async ({
  demo,
  page,
}) => {
  await page.goto(`${demo.url}/house`)
  await page.getByRole('link', { name: 'Add a well' }).click()
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByText('Give it a name.')).toBeVisible()
  // An address of another page.
  await page.getByLabel('Name').fill('New')
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByText('Give it another name.')).toBeVisible()
  await page.getByLabel('Name').fill('Terrace')
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Terrace' })).toBeVisible()
  await page.getByRole('button', { name: 'Take out full blend' }).click()
  await expect(page.getByRole('button', { name: 'Take out full blend' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.getByRole('button', { name: 'Take out full blend' })).toBeVisible()
  await page.getByRole('heading', { level: 1 }).click()
  await page.keyboard.press('d')
  await expect(page.getByRole('region', { name: 'Devices' })).toBeVisible()
  // Wet, then dried: more dried than wet cannot be.
  const wetness = page.getByRole('button', { name: 'Weigh the wetness of pebble' })
  await putOnPan(page, 200)
  await wetness.click()
  await putOnPan(page, 230)
  await wetness.click()
  await expect(page.getByText(/0 to 60 % can be. Weigh it again/)).toBeVisible()
  await putOnPan(page, 200)
  await wetness.click()
  await putOnPan(page, 164)
  await wetness.click()
  await expect(page.getByText('pebble: 18.0 % water on it.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a scoop' }).click()
  await putOnPan(page, 85)
  await page.getByRole('button', { name: 'Weigh scoop 1' }).click()
  const terrace = async () => (await demo.send<House>('GET', '/api/house')).body.wells.find((w) => w.slug === 'terrace')
  await expect.poll(async () => (await terrace())?.scoops?.[0]?.massG).toBe(85)
  expect((await terrace())?.ice.pebble?.surfaceWaterFraction).toBeCloseTo(0.18, 3)

  await page.goto(`${demo.url}/house?`)
  await page.getByRole('button', { name: 'Add a glass' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill('Weighed tumbler')
  await dialog.getByRole('button', { name: 'water on the scale' }).click()
  for (const [i, grams] of [90, 80, 300].entries()) {
    const field = dialog.getByRole('textbox', { name: `Water to height ${i + 1}` })
    await field.fill(String(grams))
    await field.blur()
  }
  await expect(dialog.getByText(/it would narrow to nothing/)).toBeVisible()
  const second = dialog.getByRole('textbox', { name: 'Water to height 2' })
  await second.fill('185')
  await second.blur()
  await expect(dialog.getByText(/Drawn within/)).toBeVisible()
  await dialog.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('button', { name: /Weighed tumbler 301 ml/ })).toBeVisible()
})

type Noted = Window & { noted?: { heading: string; rows: string }[] }

test('what one well makes of a drink is never seen under another well’s name', async ({ demo, page }) => {
  await page.goto(`${demo.url}/drinks/tide-clerk/bench`)
  const swaps = page.getByRole('region', { name: 'By another method' })
  await expect(swaps.getByRole('row').first()).toBeVisible()
  const rowsOfHearth = await swaps.locator('tbody').evaluate((rows) => rows.textContent)
  await page.evaluate(() => {
    const noted: { heading: string; rows: string }[] = []
    ;(window as Noted).noted = noted
    const note = () => {
      const section = document.querySelector('section[aria-label="By another method"]')
      const heading = section?.querySelector('h2')?.textContent ?? ''
      noted.push({ heading, rows: section?.querySelector('tbody')?.textContent ?? '' })
    }
    new MutationObserver(note).observe(document.body, { subtree: true, childList: true, characterData: true })
  })
  await page.getByRole('button', { name: 'Courtyard' }).click()
  await expect(swaps.getByRole('row', { name: /70 g pebble/ }).first()).toBeVisible()
  const noted = (await page.evaluate(() => (window as Noted).noted)) ?? []
  const ofCourtyard = noted.filter((n) => n.heading.includes('Courtyard'))
  expect(ofCourtyard.length).toBeGreaterThan(1)
  expect(ofCourtyard.map((n) => n.rows)).not.toContain(rowsOfHearth)
})
