import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { HouseFileInput } from '@conch/contract'

/** Puts the files of a folder together into one house file, each under its own name. */
export function readHouseFolder(folder: string): HouseFileInput {
  const read = (path: string) => JSON.parse(readFileSync(path, 'utf8'))
  const all = (name: string) =>
    readdirSync(join(folder, name))
      .filter((f) => f.endsWith('.json'))
      .sort()
      .map((f) => read(join(folder, name, f)))
  const { editions, plan } = read(join(folder, 'editions.json'))
  return {
    ...read(join(folder, 'house.json')),
    wells: all('wells'),
    glasses: read(join(folder, 'glasses.json')),
    ingredients: read(join(folder, 'ingredients.json')),
    drinks: all('drinks'),
    editions,
    plan,
  }
}
