import { METHODS, type Method } from '@conch/core/cold'
import { bySlug, toSlug } from '@conch/core/house'
import { type FormEvent, useState } from 'react'
import { useNavigate } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useSaveThing } from '../../app/useSaveThing.ts'

/** Places of the ice bench that no well may be called. */
const TAKEN = ['new', 'trial', 'glasses']

/** A well begins with every method at once, as shipped: what is not there is taken out afterwards. */
export function NewWellPage() {
  const navigate = useNavigate()
  const save = useSaveThing()
  const { house } = useHouse()
  const [name, setName] = useState('')
  const [error, setError] = useState<string>()
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    const slug = toSlug(name)
    if (slug === '' || TAKEN.includes(slug)) return setError('Give it another name.')
    if (bySlug(house.wells, slug)) return setError(`There is a well “${name.trim()}” already.`)
    const stations = (Object.keys(METHODS) as Method[]).map((method) => ({
      slug: toSlug(METHODS[method].label),
      name: METHODS[method].label,
      method,
      parameters: {},
    }))
    const well = { slug, name: name.trim(), roomTemperatureC: 21, handOverS: 20, stations, ice: {} }
    if (await save(`/api/wells/${slug}`, well, 0)) navigate(`/ice/${slug}`)
  }
  return (
    <form onSubmit={submit} className="mx-auto max-w-xl px-4 pt-6">
      <h1 className="mb-3 text-3xl">A new well</h1>
      <label className="block">
        <span className="text-sm font-semibold">Name</span>
        <input
          className="field"
          maxLength={120}
          value={name}
          placeholder="Terrace, Upstairs …"
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      {error && (
        <p role="alert" className="mt-1 text-stop">
          {error}
        </p>
      )}
      <p className="caption mt-2">It begins with every method as shipped; take out what it does not have.</p>
      <button type="submit" className="act act-main mt-3">
        Make it
      </button>
    </form>
  )
}
