/** `npm run pictures`: one current picture of each main view, from the demo house, into docs/screenshots. */

import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { CHROMIUM } from './chromium.mjs'
import { build, install, ROOT } from './prepare.mjs'

install()
build()
const { chromium } = await import('@playwright/test')
const port = 46_900
const directory = mkdtempSync(join(tmpdir(), 'conch-pictures-'))
const out = join(ROOT, 'docs/screenshots')
mkdirSync(out, { recursive: true })
const env = { ...process.env, PORT: String(port), CONCH_DATA: directory, DATABASE_URL: '' }
const server = spawn(process.execPath, ['server/dist/main.js', '--demo'], { cwd: ROOT, env, stdio: 'inherit' })
// Whatever goes wrong below, it does not stay behind.
process.on('exit', () => server.kill('SIGKILL'))
const url = `http://localhost:${port}`
while (
  !(await fetch(`${url}/api/ready`).then(
    (r) => r.ok,
    () => false,
  ))
)
  await new Promise((r) => setTimeout(r, 100))

const browser = await chromium.launch(CHROMIUM)
const desk = { width: 1280, height: 800 }
const phone = { width: 390, height: 844 }

const secrets = JSON.parse(readFileSync(join(ROOT, 'demo/sign-ins.json'), 'utf8'))

/** The page finds out by itself who came in. */
async function signIn(context, name) {
  const data = secrets.find((s) => s.name === name)
  const answer = await context.request.post(`${url}/api/sign-in`, { data, headers: { origin: url } })
  if (!answer.ok()) throw new Error(`${name} cannot sign in: ${await answer.text()}`)
}

async function picture(name, path, { theme = 'chart', viewport = desk, well, act, who = 'Manager' } = {}) {
  const context = await browser.newContext({ viewport, locale: 'en-GB' })
  await context.addInitScript(
    ([t, w]) => {
      localStorage.setItem('conch:theme', t)
      localStorage.setItem('conch:told', '["first steps"]')
      if (w) localStorage.setItem('conch:well', JSON.stringify(w))
    },
    [theme, well],
  )
  if (who) await signIn(context, who)
  const page = await context.newPage()
  await page.goto(url + path)
  await page.waitForLoadState('networkidle')
  const isFetching = () => document.querySelector('main')?.textContent?.includes('Fetching')
  await page.waitForFunction(() => document.querySelector('h1') !== null)
  await page.waitForFunction(`!(${isFetching})()`)
  if (act) await act(page)
  await page.waitForTimeout(900)
  await page.screenshot({ path: join(out, `${name}.png`) })
  await context.close()
}

await picture('menu-chart', '/')
await picture('menu-lantern-courtyard', '/', { theme: 'lantern', well: 'courtyard' })
await picture('drink-chart', '/drinks/low-water-bell')
await picture('next-edition', '/next')
await picture('back-bar-lantern', '/back-bar', { theme: 'lantern' })
await picture('blend', '/blends/pilots-quorum')
await picture('lineage', '/drinks/brass-ferry/lineage')
await picture('tune', '/drinks/black-buoy/tune?v=1', {
  act: (page) => page.getByRole('heading', { name: 'What does it' }).waitFor(),
})
await picture('adrift-lantern', '/adrift', {
  theme: 'lantern',
  act: async (page) => {
    for (const button of await page.getByRole('button', { name: 'What moved it' }).all()) await button.click()
    await page.getByText('Grenadine, lot 7').first().waitFor()
  },
})
await picture('tasting', '/tastings/1')
await picture('ice', '/ice')
await picture('bench', '/drinks/low-water-bell/bench', {
  act: async (page) => {
    await page.getByRole('button', { name: 'Make it 10,000 times' }).click()
    await page.getByText(/One change helps most|No single change/).waitFor()
  },
})
await picture('sign-in-phone', '/', {
  theme: 'lantern',
  viewport: phone,
  who: null,
  act: async (page) => {
    await page.getByRole('button', { name: /^Bartender Hearth/ }).click()
    await page.keyboard.type('25')
  },
})
const tablet = {
  theme: 'lantern',
  well: 'courtyard',
  who: 'Bartender Courtyard',
  viewport: { width: 1024, height: 768 },
}
/** A round of three, two of them the same, up to the step whose words are looked for. */
async function upTo(page, words) {
  const poured = page.getByRole('region', { name: 'What is poured' })
  for (const name of ['Tide Clerk', 'Tide Clerk', 'Brass Ferry'])
    await poured.getByRole('button', { name: new RegExp(`^${name}`) }).click()
  await page.getByRole('button', { name: 'Make 3' }).click()
  await page.getByRole('button', { name: /egin$/ }).click()
  const hand = page.getByLabel('The step in hand')
  for (let i = 0; i < 60 && !words.test(await hand.innerText()); i++) {
    const clock = page.getByRole('button', { name: 'Done without the clock' })
    const done = page.getByRole('button', { name: 'Done', exact: true })
    await ((await clock.count()) > 0 ? clock : done).click()
    await page.waitForTimeout(320)
  }
}
await picture('rail', '/rail', { ...tablet, act: (page) => upTo(page, /Lime juice|Cinnamon syrup/) })
await picture('rail-clock', '/rail', {
  ...tablet,
  act: async (page) => {
    await upTo(page, /for 2 in one go/)
    await page.getByRole('button', { name: 'Start the clock' }).click()
    await page.locator('[data-standing=in]').waitFor({ timeout: 30_000 })
  },
})
await picture('card', '/cards?drink=low-water-bell', tablet)
await picture('learn-phone', '/learn', {
  ...tablet,
  viewport: phone,
  act: async (page) => {
    await page.getByRole('button', { name: 'Ten minutes' }).click()
    await page.getByRole('region', { name: 'The question' }).getByRole('button', { name: 'a dash' }).click()
  },
})
// Last: they change the house.
await picture('out-lantern', '/out', {
  theme: 'lantern',
  who: 'Lead',
  viewport: { width: 1024, height: 768 },
  act: async (page) => {
    for (const name of ['Brackwater Heavy Overproof: out in the house', 'Falernum with alcohol: low', 'lime: low'])
      await page.getByRole('button', { name, exact: true }).click()
    await page
      .getByRole('link', { name: /Instead of Brackwater/ })
      .first()
      .click()
    await page.getByRole('button', { name: 'Tonight at the Hearth' }).click()
    await page.getByRole('button', { name: 'End that' }).waitFor()
    await page.waitForTimeout(9000)
    // What the bar needs is on the device by now; then the network goes.
    await page.context().setOffline(true)
    await page.getByRole('button', { name: 'Grapefruit juice: out at the Hearth' }).click()
    await page.getByText('not sent yet').waitFor()
    await page.locator('[data-alone]').waitFor()
    await page.waitForTimeout(9000)
    await page.evaluate(() => scrollTo(0, 0))
  },
})
await picture('who-did-what', '/audit', {
  act: async (page) => {
    const headers = { origin: url }
    const { ingredients, revisions } = await (
      await page.request.get(`${url}/api/shelf?of=fennick-orgeat,lime-juice`)
    ).json()
    for (const i of ingredients)
      await page.request.put(`${url}/api/ingredients/${i.slug}`, {
        headers,
        data: {
          document: {
            ...i,
            price: (i.price ?? 10) + 1.5,
            figures: {
              ...i.figures,
              sugarGPer100Ml: { ...i.figures.sugarGPer100Ml, value: i.figures.sugarGPer100Ml.value + 1 },
            },
          },
          revision: revisions[i.slug],
          reason: 'a new delivery',
        },
      })
    const { settings, revisions: all } = await (await page.request.get(`${url}/api/house`)).json()
    await page.request.put(`${url}/api/house/settings`, {
      headers,
      data: { document: { ...settings, idleLockMinutes: 5 }, revision: all.settings },
    })
    await page.request.post(`${url}/api/people`, { headers, data: { name: 'Ada', role: 'bartender', secret: '7306' } })
    await page.reload()
    await page.getByText('took on').or(page.getByText('made Ada')).first().waitFor()
  },
})
await browser.close()
server.kill('SIGTERM')
await new Promise((r) => server.on('exit', r))
rmSync(directory, { recursive: true, force: true })
