/** Signing in at a running demo house, as its people do. */

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { DEMO } from '../database/paths.ts'

export const DEMO_SECRETS = JSON.parse(readFileSync(join(DEMO, 'sign-ins.json'), 'utf8')) as {
  name: string
  secret: string
}[]

/** @returns the headers of one who is signed in. @throws Error with what the house said */
export async function signInAt(url: string, name = 'Manager'): Promise<{ cookie: string; origin: string }> {
  const secret = DEMO_SECRETS.find((s) => s.name === name)?.secret
  const response = await fetch(`${url}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: url },
    body: JSON.stringify({ name, secret }),
  })
  const [cookie] = response.headers.getSetCookie()
  if (!response.ok || !cookie) throw new Error(`${name} cannot sign in: ${await response.text()}`)
  return { cookie: cookie.split(';')[0] ?? '', origin: url }
}
