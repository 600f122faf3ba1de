import { METHODS } from '@conch/core/cold'
import { bySlug, toSlug } from '@conch/core/house'
import { keysOf } from '@conch/core/schema/keysOf'
import { useNavigate } from 'react-router'
import { z } from 'zod'
import { useHouse } from '../../app/house.tsx'
import { nameForNew } from '../../app/nameForNew.ts'
import { useSending } from '../../app/useSending.ts'
import { useSaveThing } from '../../foresight/index.ts'
import { Field } from '../../ui/Field.tsx'

/** Places of the ice bench that no well may be called. */
const TAKEN = ['new', 'trial', 'glasses']

const wellForm = z.object({ name: nameForNew() })

/** A well begins with every method at once, as shipped: what is not there is taken out afterwards. */
export function NewWellPage() {
  const navigate = useNavigate()
  const save = useSaveThing()
  const { house } = useHouse()
  const form = useSending(wellForm, { name: '' }, async ({ name }) => {
    const slug = toSlug(name)
    if (TAKEN.includes(slug)) throw new Error('Give it another name.')
    if (bySlug(house.wells, slug)) throw new Error(`There is a well “${name}” already.`)
    const stations = keysOf(METHODS).map((method) => ({
      slug: toSlug(METHODS[method].label),
      name: METHODS[method].label,
      method,
      parameters: {},
    }))
    const well = { slug, name, roomTemperatureC: 21, handOverS: 20, stations, ice: {} }
    if (await save(`/api/wells/${slug}`, well, 0)) navigate(`/ice/${slug}`)
  })
  return (
    <form onSubmit={form.submit} className="mx-auto max-w-xl px-4 pt-6">
      <h1 className="mb-3 text-3xl">A new well</h1>
      <Field
        label="Name"
        error={form.errorOf('name') ?? form.problem}
        hint="It begins with every method as shipped; take out what it does not have."
      >
        {(props) => <input {...props} maxLength={120} placeholder="Terrace, Upstairs …" {...form.register('name')} />}
      </Field>
      <button type="submit" className="act act-main mt-3" disabled={form.isBusy}>
        Make it
      </button>
    </form>
  )
}
