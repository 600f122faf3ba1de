/** A server of its own for every test, on a fresh data directory and a free port. */

import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { type BrowserContext, test as base, expect, type Page } from '@playwright/test'
import { DEMO_SECRETS, signInAt } from '../server/testing/signIn.ts'
import { freePort, type StartedServer, startBuilt } from '../server/testing/startBuilt.ts'

const ROOT = fileURLToPath(new URL('..', import.meta.url))

export class House {
  private server: StartedServer | undefined
  readonly directory = mkdtempSync(join(tmpdir(), 'conch-e2e-'))

  get url(): string {
    return `http://localhost:${this.server?.port}`
  }

  /** What the server wrote to its terminal since it was opened. */
  get output(): string {
    return this.server?.output() ?? ''
  }

  /** Starts the built server and waits until it answers; again on the same port. @returns how long that took, ms */
  async open({ isDemo = true } = {}): Promise<number> {
    const startedAt = performance.now()
    const port = this.server && { port: this.server.port }
    const env = { CONCH_DATA: this.directory }
    this.server = await startBuilt({ ...port, args: isDemo ? ['--demo'] : [], env })
    return performance.now() - startedAt
  }

  /** A second server on the same directory, until it ends by itself. */
  async openSecond(): Promise<{ code: number | null; output: string }> {
    const args = [join(ROOT, 'server/dist/main.js')]
    const env = { ...process.env, PORT: String(await freePort()), CONCH_DATA: this.directory, DATABASE_URL: '' }
    const child = spawn(process.execPath, args, { env })
    let output = ''
    child.stderr.on('data', (data) => {
      output += data
    })
    const code = await new Promise<number | null>((resolve) => child.on('exit', resolve))
    return { code, output }
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.server?.child
    if (!child || child.exitCode !== null || child.signalCode !== null) return
    const ended = new Promise((resolve) => child.on('exit', resolve))
    child.kill(signal)
    await ended
  }

  /** Ends it, with its data: nothing needs to be closed well. */
  async remove(): Promise<void> {
    await this.stop('SIGKILL')
    rmSync(this.directory, { recursive: true, force: true })
  }

  private readonly signIns = new Map<number, Promise<{ cookie: string; origin: string }>>()

  /** The headers of one of the people of the demo, by their number. */
  signedIn(person = 1): Promise<{ cookie: string; origin: string }> {
    const before = this.signIns.get(person)
    if (before) return before
    const mine = signInAt(this.url, DEMO_SECRETS[person - 1]?.name)
    this.signIns.set(person, mine)
    return mine
  }

  /** Asks as one of the people of the house; the first of the demo is its manager. */
  async send<T>(method: string, path: string, body?: unknown, person = 1): Promise<{ status: number; body: T }> {
    const headers = {
      ...(await this.signedIn(person)),
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
    }
    const response = await fetch(this.url + path, {
      method,
      headers,
      body: body === undefined ? undefined : JSON.stringify(body),
    })
    return { status: response.status, body: (await response.json()) as T }
  }
}

/** The people of the demo house. */
export const PEOPLE = {
  Manager: { id: 1, name: 'Manager', role: 'manager' },
  Lead: { id: 2, name: 'Lead', role: 'lead' },
  Bartender: { id: 3, name: 'Bartender Hearth', role: 'bartender' },
  Courtyard: { id: 4, name: 'Bartender Courtyard', role: 'bartender' },
  Guest: { id: 5, name: 'Guest tablet', role: 'viewer' },
} as const

const secretOf = (name: string) => DEMO_SECRETS.find((s) => s.name === name)?.secret ?? ''

/** Signs somebody in on a device, before its first page is opened; in the demo house alone. */
export async function worksHere(target: Page | BrowserContext, who: keyof typeof PEOPLE): Promise<void> {
  const person = PEOPLE[who]
  await target.addInitScript(
    ({ name, secret }) => {
      if (!location.protocol.startsWith('http')) return
      // They have been here before.
      if (!localStorage.getItem('conch:told')) localStorage.setItem('conch:told', '["first steps"]')
      // What somebody does on the page stays done: once on each device.
      if (localStorage.getItem('test:came-in')) return
      localStorage.setItem('test:came-in', 'yes')
      const asked = new XMLHttpRequest()
      asked.open('POST', '/api/sign-in', false)
      asked.setRequestHeader('content-type', 'application/json')
      asked.send(JSON.stringify({ name, secret }))
      if (asked.status === 200) localStorage.setItem('conch:who', asked.responseText)
    },
    { name: person.name, secret: secretOf(person.name) },
  )
}

/** Another hand takes the device: their name is tapped, and their word said. */
export async function takeOver(page: Page, who: keyof typeof PEOPLE): Promise<void> {
  const { name, role } = PEOPLE[who]
  await page.getByRole('button', { name: /^(Manager|Lead|Bartender Hearth|Bartender Courtyard)$/ }).click()
  await page.getByRole('menuitem', { name: 'Somebody else works here now' }).click()
  await signInHere(page, name, role === 'manager')
  await expect(page.getByRole('banner').getByRole('button', { name, exact: true })).toBeVisible()
}

/** Where names are shown: taps one, and says their word. */
export async function signInHere(page: Page, name: string, isByPassphrase = false): Promise<void> {
  await page
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .last()
    .click()
  if (isByPassphrase) {
    await page.getByLabel(`Passphrase of ${name}`).fill(secretOf(name))
    await page.getByRole('button', { name: 'Come in' }).click()
  } else await tapPin(page, name)
}

/** Where somebody is asked for their PIN. */
export async function tapPin(page: Page, name: string): Promise<void> {
  const pad = page.getByRole('group', { name: `PIN of ${name}` })
  for (const digit of secretOf(name)) await pad.getByRole('button', { name: digit, exact: true }).click()
}

/** Goes to a place by its words: through its room in the line, or by the thumb's bar. */
export async function visit(page: Page, room: string, place: string): Promise<void> {
  const places = page.getByRole('navigation', { name: 'Places' })
  const all = places.getByRole('button', { name: 'All rooms' })
  if (await all.isVisible()) {
    await all.click()
    await page.getByRole('list', { name: 'Rooms' }).getByRole('link', { name: place, exact: true }).click()
    return
  }
  const word = places.getByRole('link', { name: room, exact: true })
  if (room !== place && (await word.isVisible())) await word.click()
  await places.getByRole('link', { name: place, exact: true }).click()
}

export const test = base.extend<{ house: House; demo: House }>({
  // A device where the manager works, unless a test says otherwise.
  page: async ({ page }, use) => {
    await worksHere(page, 'Manager')
    await use(page)
  },
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads what a fixture needs from here
  house: async ({}, use) => {
    const house = new House()
    await use(house)
    await house.remove()
  },
  demo: async ({ house }, use) => {
    await house.open()
    await use(house)
  },
})

export { expect }

/** The figure of a measure in the margin, as a number. */
export async function figure(page: Page, measure: string): Promise<number> {
  const text = await page
    .locator(`tr[data-measure="${measure}"] td`)
    .last()
    .evaluate((td) => td.firstChild?.textContent ?? '')
  return Number.parseFloat(text.replace('−', '-'))
}

/** Waits until the draft is on the server. */
export async function draftSaved(page: Page): Promise<void> {
  await expect(page.locator('[data-draft-status="saved"]')).toBeVisible()
}

/** Puts a weight on the simulated pan. */
export async function putOnPan(page: Page, grams: number) {
  const pan = page.getByRole('textbox', { name: 'On the pan' })
  await pan.fill(String(grams))
  await pan.press('Enter')
}
