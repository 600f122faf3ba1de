import { randomUUID } from 'node:crypto'
import {
  type AddTrial,
  type Draft,
  type Drink,
  type Edition,
  type House,
  type HouseFile,
  type ImportProgress,
  type Menu,
  type ProblemDocument,
  ROLES,
  type Role,
  type ShelfPart,
  type Version,
  type You,
} from '@conch/contract'
import type { DrinkDocumentInput } from '@conch/core/drink'
import type { Flight } from '@conch/core/palate'
import { desc } from 'drizzle-orm'
import pg from 'pg'
import pino from 'pino'
import { inject } from 'vitest'
import { NOBODY } from '../access/actor.ts'
import { createApp } from '../app.ts'
import { writeCopy } from '../copy/writeCopy.ts'
import { type OpenDatabase, openPglite, openPostgres } from '../database/index.ts'
import { editions } from '../database/schema.ts'
import { Sessions, startSession } from '../door/sessions.ts'
import { inWrite } from '../events/index.ts'
import { importHouseFile } from '../features/transfer/importHouseFile.ts'
import { KeptAnswers } from '../http/kept.ts'
import { limitRate } from '../http/rate.ts'
import type { Services } from '../http/route.ts'
import { createServices } from '../services.ts'
import { insertPerson, loadPeople } from '../stores/people.ts'

/** Tests ask more than any device. */
const NO_LIMIT = 10_000_000

export type Backend = 'pglite' | 'postgresql'
export const BACKENDS: Backend[] = ['pglite', 'postgresql']

/** A fresh database: PGlite in memory, or a database of its own on the tests' PostgreSQL server. */
export async function openFresh(backend: Backend): Promise<OpenDatabase> {
  if (backend === 'pglite') return openPglite()
  const url = new URL(inject('postgresUrl'))
  const name = `t${randomUUID().replaceAll('-', '')}`
  const client = new pg.Client({ connectionString: url.href })
  await client.connect()
  await client.query(`create database ${name}`)
  await client.end()
  url.pathname = `/${name}`
  return openPostgres(url.href)
}

/** Who asks: a role (the manager unless said otherwise, '' for nobody) and a name. */
export interface Who {
  as?: string
  called?: string
}

/** The house with its whole shelf; as many things as one answer holds. */
export type WholeHouse = Omit<House, 'revisions'> &
  Pick<ShelfPart, 'ingredients' | 'lots' | 'fruitYields'> & {
    flights: Flight[]
    revisions: House['revisions'] & { ingredients: Record<string, number> }
  }

export interface Answer<T> {
  status: number
  body: T
  problem: ProblemDocument
}

/** The application as a person at a bar would drive it. */
export class TestServer {
  private minute = 0
  readonly app
  readonly services: Services
  readonly database: OpenDatabase
  /** Ids and tokens of people by name, as they are met. */
  private readonly people = new Map<string, Promise<{ id: number; token: string } | undefined>>()

  /** @param with services in place of its own, as of another server of the same house */
  constructor(database: OpenDatabase, now?: () => Date, services?: Services) {
    this.database = database
    const clock = now ?? (() => new Date(Date.UTC(2026, 0, 1, 12, this.minute++)))
    this.services = services
      ? {
          ...services,
          now: clock,
          answers: new KeptAnswers(),
          sessions: new Sessions({ database, now: clock }),
          rate: limitRate(NO_LIMIT, NO_LIMIT),
        }
      : { ...createServices(database, clock), rate: limitRate(NO_LIMIT, NO_LIMIT) }
    this.app = createApp({ ...this.services, log: pino({ level: 'silent' }) })
  }

  /** The headers of one who is signed in: a person of this name, made when they are met first; none for `''`. */
  async header({ as = 'manager', called = ROLES[as as Role] }: Who): Promise<Record<string, string>> {
    const met = as === '' ? undefined : await this.signedIn(as as Role, called)
    return met ? { cookie: `conch=${met.token}`, origin: 'http://localhost' } : {}
  }

  /** The number of somebody who works here. */
  async idOf({ as = 'manager', called = ROLES[as as Role] }: Who): Promise<number> {
    return (await this.signedIn(as as Role, called))?.id ?? 0
  }

  private async signedIn(role: Role, called: string) {
    const key = `${role} ${called}`
    // Kept while they are being met: two requests at once meet one person.
    const met = this.people.get(key) ?? this.meet(role, called)
    this.people.set(key, met)
    const found = await met
    if (found === undefined) this.people.delete(key)
    return found
  }

  /** Two people of one name in two roles are told apart. */
  private async meet(role: Role, called: string): Promise<{ id: number; token: string } | undefined> {
    const all = await loadPeople(this.database.db)
    if (all.length === 0) return undefined
    const isTaken = all.some((p) => p.name === called && p.role !== role)
    const name = isTaken ? `${called}, ${role}` : called
    const known = all.find((p) => p.name === name)
    const person = known ?? (await insertPerson(this.database.db, { name, role }))
    if (!known) this.services.held.forget()
    return person && { id: person.id, token: await this.tokenOf(person.id) }
  }

  /** Comes in by the door, with a name and a secret. @returns the cookies that were set, as headers */
  async comeIn(
    name: string,
    secret: string,
    headers: Record<string, string> = {},
  ): Promise<Answer<You> & { headers: { cookie: string } }> {
    const response = await this.app.request('/api/sign-in', {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: 'http://localhost', ...headers },
      body: JSON.stringify({ name, secret }),
    })
    const json = await response.json()
    const set = response.headers.getSetCookie().map((c) => c.split(';')[0])
    return {
      status: response.status,
      body: json as You,
      problem: json as ProblemDocument,
      headers: { cookie: set.join('; ') },
    }
  }

  /** Signs somebody in past the door, for as long as a test's clock may run. */
  tokenOf = (personId: number) =>
    startSession(this.database.db, {
      personId,
      device: undefined,
      now: this.services.now(),
      lastsS: 100 * 365 * 86_400,
    })

  async send<T = unknown>(
    method: string,
    path: string,
    body?: unknown,
    { as, called, ...headers }: Who & Record<string, string> = {},
  ): Promise<Answer<T>> {
    const who = headers.cookie === undefined ? await this.header({ as, called }) : { origin: 'http://localhost' }
    const response = await this.app.request(path, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...who, ...headers },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    })
    const json = await response.json()
    return { status: response.status, body: json as T, problem: json as ProblemDocument }
  }

  get = <T = unknown>(path: string, headers?: Who & Record<string, string>) =>
    this.send<T>('GET', path, undefined, headers)

  /** What is answered as a file. */
  async file(
    path: string,
    { as, called, ...headers }: Who & Record<string, string> = {},
  ): Promise<{ status: number; headers: Headers; text: string }> {
    const who = headers.cookie === undefined ? await this.header({ as, called }) : {}
    const response = await this.app.request(path, { headers: { ...who, ...headers } })
    const { status } = response
    return { status, headers: response.headers, text: Buffer.from(await response.arrayBuffer()).toString('latin1') }
  }

  /** The whole house as a copy. */
  async copy(): Promise<string> {
    let text = ''
    for await (const line of writeCopy(this.database.db)) text += line
    return text
  }

  /** Brings a file in, as the first page does, and waits until it is there or refused. */
  async bring(file: string | Uint8Array, type = 'application/x-ndjson'): Promise<ImportProgress> {
    const headers = { 'content-type': type }
    const response = await this.app.request('/api/import', { method: 'POST', headers, body: file as never })
    let state = (await response.json()) as ImportProgress
    if (response.status !== 202) return { ...state, state: 'refused', problem: state as never }
    while (state.state === 'running') {
      await new Promise((r) => setTimeout(r, 5))
      const looked = await this.get<ImportProgress>(`/api/import/${state.id}`, { as: '' })
      // While the new database is put in place nobody is answered.
      if (looked.status !== 503) state = looked.body
    }
    return state
  }

  /** Loads the demo house. */
  demo = (file: HouseFile) =>
    inWrite(this.database, { actor: NOBODY, now: this.services.now }, (write) =>
      importHouseFile(file, { isDemo: true }, write),
    )

  setUp = (name = 'Test Parlour') => this.send<House>('POST', '/api/house', { ...A_HOUSE, name })

  async createDrink(name: string): Promise<Drink> {
    return (await this.send<Drink>('POST', '/api/drinks', { name })).body
  }

  saveDraft = (slug: string, document: unknown, revision: number, by = 'Manager', baseVersion: number | null = null) =>
    this.send<Draft>('PUT', `/api/drinks/${slug}/draft`, { document, revision, baseVersion }, { called: by })

  saveVersion = (slug: string, draftRevision: number, reason = 'a test wants it') =>
    this.send<Version>('POST', `/api/drinks/${slug}/versions`, { draftRevision, reason })

  /** A drink with one saved version of this document. @throws Error where it is refused: no test goes on without it */
  async drinkWithVersion(name: string, document: Partial<DrinkDocumentInput> = {}): Promise<Drink> {
    const drink = await this.createDrink(name)
    const draft = await this.saveDraft(drink.slug, aDocument({ name, ...document }), drink.draft?.revision ?? 0)
    const saved = await this.saveVersion(drink.slug, draft.body.revision)
    if (saved.status !== 201) throw new Error(`no version of ${name}: ${saved.problem.detail}`)
    return (await this.get<Drink>(`/api/drinks/${drink.slug}`)).body
  }

  /** An edition with one drink, as if an earlier model of the ice had computed it: with so much more dilution than today's. */
  async publishByEarlierModel(name: string, dilutionMore = 0): Promise<Drink> {
    const drink = await this.drinkWithVersion(name)
    const { revision } = await this.plan([{ drink: drink.slug, version: 1 }])
    await this.send('POST', '/api/editions', { name, note: '', planRevision: revision })
    const { db } = this.database
    const [newest] = await db.select().from(editions).orderBy(desc(editions.number)).limit(1)
    if (!newest) throw new Error('the edition is not there')
    const { lock } = newest
    for (const { byWell } of lock.chapters.flatMap((c) => c.drinks))
      for (const { result } of Object.values(byWell)) {
        const { dilutionPct } = result.predictions
        if (dilutionPct) dilutionPct.value += dilutionMore
      }
    await db.insert(editions).values({
      ...newest,
      number: newest.number + 1,
      planRevision: null,
      lock: { ...lock, model: 2 },
    })
    this.services.held.forget()
    return drink
  }

  async plan(entries: { drink: string; version: number }[]): Promise<Menu> {
    const { revision } = (await this.get<Menu>('/api/menu')).body
    const plan = { chapters: [{ name: 'Long', entries }] }
    return (await this.send<Menu>('PUT', '/api/menu', { plan, revision })).body
  }

  async wholeShelf(who: Who & Record<string, string> = {}): Promise<ShelfPart> {
    return (await this.get<ShelfPart>('/api/shelf?shown=all', who)).body
  }

  /** Everything that the house and its shelf say to one who asks, as one. */
  async house(who: Who & Record<string, string> = {}): Promise<Answer<WholeHouse>> {
    const answer = await this.get<House>('/api/house', who)
    if (answer.status !== 200) return answer as Answer<WholeHouse>
    const { ingredients, lots, fruitYields, revisions } = await this.wholeShelf(who)
    const { flights } = (await this.get<{ flights: Flight[] }>('/api/flights?limit=100', who)).body
    const body = {
      ...answer.body,
      ingredients,
      lots,
      fruitYields,
      flights: flights.reverse(),
      revisions: { ...answer.body.revisions, ingredients: revisions },
    }
    return { ...answer, body }
  }

  /** @returns the edition with its lock, or the refusal */
  async publish(planRevision: number, name = 'Summer'): Promise<Answer<Edition>> {
    const made = await this.send<Edition>('POST', '/api/editions', { name, note: '', planRevision })
    if (made.status !== 201) return made
    return { ...(await this.get<Edition>(`/api/editions/${made.body.number}`)), status: made.status }
  }
}

/** What the first visit asks for. */
export const A_HOUSE = {
  name: 'Test Parlour',
  ounceMl: 30,
  standardDrinkG: 10,
  wells: ['Front', 'Yard'],
  secret: 'the tide keeps time',
}

/** A trial of the mixer at the front; by the model of an uncalibrated one, within a gram or two. */
export function aTrial(changes: Partial<AddTrial> = {}): AddTrial {
  return {
    well: 'front',
    station: 'flash-blend',
    drink: 'harbour-test',
    version: 1,
    liquidBeforeG: 100,
    ice: [{ kind: 'crushed', massG: 150 }],
    durationS: 4,
    afterG: 140,
    ...changes,
  }
}

/** A valid drink of the starter house. */
export function aDocument(changes: Partial<DrinkDocumentInput> = {}): DrinkDocumentInput {
  return {
    name: 'Harbour Test',
    pours: [
      { ingredient: 'aged-rum', amount: { value: 1.75, unit: 'oz', asWritten: '1¾ oz' } },
      { ingredient: 'lime-juice', amount: { value: 0.75, unit: 'oz' } },
      { ingredient: 'sugar-syrup', amount: { value: 0.5, unit: 'oz' } },
    ],
    stages: [{ method: 'flashBlend', durationS: 4 }],
    glass: 'tall',
    ...changes,
  }
}

/** What the database itself says to whoever would change a row of history. */
export const historyStays = (table: string) => ({
  cause: { message: `rows of ${table} are history and do not change` },
})
