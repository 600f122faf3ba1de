import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EVENT_KINDS, EVENT_VERBS } from './events.ts'
import { type Asker, mayDo, ROLES, type Role, rolesFor, whileLocked } from './roles.ts'
import { changesOf, kindWords, sayEvent, verbWords } from './sayEvent.ts'
import { enrolDeviceSchema, secretKindOf, secretProblem } from './signIn.ts'

describe('a secret', () => {
  it.each(['1234', '9876', '0000', '7777', '0123'])('%s is tried first by everybody', (pin) => {
    expect(secretProblem(pin, 'bartender', 'Ann')).toContain('everybody tries that one first')
  })
  it.each(['2580', '4071', '1224', '0909'])('%s will do', (pin) => {
    expect(secretProblem(pin, 'lead', 'Ann')).toBeUndefined()
  })
  it('of the bar is four digits and nothing else; a manager’s is a sentence', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 12 }), (text) => {
        const isFour = /^[0-9]{4}$/.test(text)
        const problem = secretProblem(text, 'bartender', 'Ann')
        expect(problem !== undefined || isFour).toBe(true)
        if (!isFour) expect(problem).toBe('a PIN has 4 digits')
        if ([...text].length < 10) expect(secretProblem(text, 'manager', 'Ann')).toContain('at least 10 letters')
      }),
    )
    expect(secretKindOf('manager')).toBe('passphrase')
    expect(secretProblem('low tide at noon', 'manager', 'Ann')).toBeUndefined()
    expect(secretProblem('aaaaaaaaaaaa', 'manager', 'Ann')).toContain('over and over')
    expect(secretProblem('Ann of the Quay', 'manager', 'ann of the quay')).toContain('own name')
  })
  it('a device’s code is read with or without what stands between', () => {
    const read = (code: string) => enrolDeviceSchema.safeParse({ code })
    for (const code of ['by3wh33s', 'BY3W H33S', 'BY3W-H33S']) expect(read(code).data?.code).toBe('BY3WH33S')
    for (const code of ['BY3W', 'BY3WH330', 'IY3WH33S', '']) expect(read(code).success).toBe(false)
  })
})

describe('roles', () => {
  it('while the screen is locked nobody may more than before, and nothing that is sealed', () => {
    const acts = ['read', 'readPublished', 'openSealed', 'editHouse', 'editPeople', 'readAudit', 'exportHouse'] as const
    for (const role of Object.keys(ROLES) as Role[])
      for (const act of acts) {
        if (mayDo(whileLocked(role), act)) expect(mayDo(role, act)).toBe(true)
        expect(mayDo(whileLocked(role), 'openSealed')).toBe(false)
      }
  })
  it('what nobody in particular may, everybody may', () => {
    for (const act of ['lookAround', 'signIn'] as const)
      for (const role of [...Object.keys(ROLES), 'nobody'] as Asker[]) expect(mayDo(role, act)).toBe(true)
    expect(rolesFor('openSealed')).toEqual(['manager'])
  })
})

describe('an event in words', () => {
  const names = new Map([['3', 'Ada']])
  const event = (kind: string, verb: string, subject: string, detail: Record<string, unknown> = {}) => ({
    kind,
    verb,
    subject,
    detail,
  })
  it('has a word for everything that can happen', () => {
    for (const kind of EVENT_KINDS) expect(kindWords(kind)).toMatch(/^(a|an|the|many) /)
    for (const verb of EVENT_VERBS) expect(verbWords(verb)).not.toMatch(/[A-Z]/)
  })
  it('names people as they are called now, and whose sign-in it was only where it is another’s', () => {
    expect(sayEvent(event('person', 'changed', '3'), names)).toBe('changed Ada')
    expect(sayEvent({ ...event('session', 'signedIn', '3'), by: 'Ada' }, names)).toBe('signed in')
    expect(sayEvent({ ...event('session', 'signedOut', '3'), by: 'Ben' }, names)).toBe('signed out Ada')
    expect(sayEvent(event('drink', 'made', 'adas-own', { name: 'Ada’s Own' }), names)).toBe('made a drink, Ada’s Own')
  })
  it('says each field before and after, lists by the names in them, and leaves out what says nothing', () => {
    const was = {
      name: 'Rum',
      revision: 1,
      figures: { abvPct: { value: 43 } },
      pours: [{ name: 'a', ml: 1 }, { name: 'b' }],
    }
    const is = {
      name: 'Rum',
      revision: 2,
      figures: { abvPct: { value: 46.5 } },
      pours: [{ name: 'c' }, { name: 'a', ml: 2 }],
    }
    const late = { name: 'lime', saidAt: '2026-09-01T21:10:00.000Z' }
    expect(changesOf({ detail: late }, { timeZone: 'Europe/Lisbon', dayTurnsAtHour: 6 })).toEqual([
      'name: lime',
      'said 1 Sep 2026, 22:10, and sent later',
    ])
    expect(changesOf({ detail: { was, is, reason: 'a new label' } })).toEqual([
      'figures · abv, % · value: 43 → 46.5',
      'pours · a · ml: 1 → 2',
      'pours · b: gone',
      'pours · c: new',
      'reason: a new label',
    ])
  })
  it('never fails, whatever was written', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (was, is) => {
        const changes = changesOf({ detail: { was, is } })
        expect(changes.every((c) => typeof c === 'string' && c.length < 400)).toBe(true)
      }),
    )
  })
})
