/**
 * `npm run reset-manager`: a new passphrase for a manager who lost it, or the first one of a house that came from a
 * copy. Only on the machine itself: whoever can do that could read the data as well.
 */

import { HOUSE } from './access/actor.ts'
import { hashSecret } from './door/secret.ts'
import { newPassphrase } from './door/token.ts'
import { inWrite } from './events/index.ts'
import { resetSecret } from './features/access/index.ts'
import { endWith, openHouse, SetUpProblem } from './openHouse.ts'
import { isSetUp } from './stores/house.ts'
import { loadPeople } from './stores/people.ts'

async function main(): Promise<void> {
  const name = process.argv.slice(2).join(' ').trim()
  const database = await openHouse()
  try {
    if (!(await isSetUp(database.db)))
      throw new SetUpProblem('There is no house here yet: its first visit makes the first manager.')
    const managers = (await loadPeople(database.db)).filter((p) => p.isActive && p.role === 'manager')
    const named = managers.filter((p) => name === '' || p.name.toLowerCase() === name.toLowerCase())
    const [person] = named
    if (!person || named.length > 1) {
      const names = managers.map((p) => `  npm run reset-manager -- ${p.name}`).join('\n')
      throw new SetUpProblem(
        person
          ? `There are several managers; name one:\n${names}`
          : `“${name}” is no manager here; these are:\n${names}`,
      )
    }
    const secret = newPassphrase()
    const hash = await hashSecret(secret)
    await inWrite(database, { actor: HOUSE, now: () => new Date() }, (write) => resetSecret(person, hash, write))
    await database.makeDurable()
    console.log(`${person.name} signs in once with this passphrase, and then chooses another:\n\n  ${secret}\n`)
  } finally {
    await database.close()
  }
}

main().catch(endWith)
