/** A server of its own for every test, on a fresh data directory and a free port. */

import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { type BrowserContext, test as base, expect, type Page } from '@playwright/test'
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
    if (!child || child.exitCode !== null) return
    const ended = new Promise((resolve) => child.on('exit', resolve))
    child.kill(signal)
    await ended
  }

  /** Ends it, with its data: nothing needs to be closed well. */
  async remove(): Promise<void> {
    await this.stop('SIGKILL')
    rmSync(this.directory, { recursive: true, force: true })
  }

  /** Asks as one of the people of the house; the first of the demo is its manager. */
  async send<T>(method: string, path: string, body?: unknown, person = 1): Promise<{ status: number; body: T }> {
    const headers = {
      'conch-person': String(person),
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
} as const

/** Says on a device who works, before its pages are opened. */
export async function worksHere(target: Page | BrowserContext, who: keyof typeof PEOPLE): Promise<void> {
  await target.addInitScript((person) => {
    // What somebody chooses on the page stays chosen.
    if (!localStorage.getItem('conch:who')) localStorage.setItem('conch:who', JSON.stringify(person))
    // They have been here before.
    if (!localStorage.getItem('conch:told')) localStorage.setItem('conch:told', '["first steps"]')
  }, PEOPLE[who])
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
