import { randomUUID } from 'node:crypto'
import type { Draft, Drink, Edition, House, Menu, ProblemDocument, Version } from '@conch/contract'
import type { DrinkDocumentInput } from '@conch/core/drink'
import pg from 'pg'
import pino from 'pino'
import { inject } from 'vitest'
import { type OpenDatabase, openPglite, openPostgres } from '../database/index.ts'
import { createApp } from '../http/app.ts'

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

export interface Answer<T> {
  status: number
  body: T
  problem: ProblemDocument
}

/** The application as a person at a bar would drive it. */
export class TestServer {
  private minute = 0
  private readonly app
  readonly database: OpenDatabase

  constructor(database: OpenDatabase) {
    this.database = database
    this.app = createApp({
      database,
      now: () => new Date(Date.UTC(2026, 0, 1, 12, this.minute++)),
      log: pino({ level: 'silent' }),
    })
  }

  async send<T = unknown>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const response = await this.app.request(path, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    })
    const json = await response.json()
    return { status: response.status, body: json as T, problem: json as ProblemDocument }
  }

  get = <T = unknown>(path: string, headers?: Record<string, string>) => this.send<T>('GET', path, undefined, headers)

  /** What is answered as a file. */
  async file(path: string, headers: Record<string, string> = {}): Promise<{ headers: Headers; text: string }> {
    const response = await this.app.request(path, { headers })
    return { headers: response.headers, text: Buffer.from(await response.arrayBuffer()).toString('latin1') }
  }

  setUp = (name = 'Test Parlour') =>
    this.send<House>('POST', '/api/house', { name, ounceMl: 30, standardDrinkG: 10, wells: ['Front', 'Yard'] })

  async createDrink(name: string): Promise<Drink> {
    return (await this.send<Drink>('POST', '/api/drinks', { name })).body
  }

  saveDraft = (slug: string, document: unknown, revision: number, by = 'Manager', baseVersion: number | null = null) =>
    this.send<Draft>('PUT', `/api/drinks/${slug}/draft`, { document, revision, baseVersion }, { 'conch-name': by })

  saveVersion = (slug: string, draftRevision: number, reason = 'a test wants it') =>
    this.send<Version>('POST', `/api/drinks/${slug}/versions`, { draftRevision, reason })

  /** A drink with one saved version of this document. */
  async drinkWithVersion(name: string, document: Partial<DrinkDocumentInput> = {}): Promise<Drink> {
    const drink = await this.createDrink(name)
    const draft = await this.saveDraft(drink.slug, aDocument({ name, ...document }), drink.draft?.revision ?? 0)
    await this.saveVersion(drink.slug, draft.body.revision)
    return (await this.get<Drink>(`/api/drinks/${drink.slug}`)).body
  }

  async plan(entries: { drink: string; version: number }[]): Promise<Menu> {
    const { revision } = (await this.get<Menu>('/api/menu')).body
    const plan = { chapters: [{ name: 'Long', entries }] }
    return (await this.send<Menu>('PUT', '/api/menu', { plan, revision })).body
  }

  publish = (planRevision: number, name = 'Summer') =>
    this.send<Edition>('POST', '/api/editions', { name, note: '', planRevision })
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
