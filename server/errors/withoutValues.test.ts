import { DrizzleQueryError } from 'drizzle-orm/errors'
import { describe, expect, it } from 'vitest'
import { withoutValues } from './withoutValues.ts'

describe('an error in the log', () => {
  it('says what and where, and nothing of what a query was asked with', () => {
    const cause = Object.assign(new Error('value too long'), { code: '22001' })
    const error = new DrizzleQueryError('insert into "recipes" values ($1)', ['two parts of the secret rum'], cause)
    const logged = withoutValues(error)
    expect(JSON.stringify(logged)).not.toContain('secret')
    expect(logged.message).toContain('insert into "recipes"')
    expect(logged.cause).toMatchObject({ message: 'value too long', code: '22001' })
    expect(logged.stack).toContain('withoutValues.test.ts')
  })
  it('of what is no error says that much', () => {
    expect(withoutValues('nothing')).toEqual({ type: 'string', message: 'nothing' })
  })
})
