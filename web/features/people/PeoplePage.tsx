import { mayDo } from '@conch/contract'
import { useWho } from '../../app/who.ts'
import { Devices } from './Devices.tsx'
import { People } from './People.tsx'

/** Who works here, and on what. */
export function PeoplePage() {
  const mayEdit = mayDo(useWho().role, 'editPeople')
  return (
    <div className="px-4 pt-4 pb-10">
      <h1 className="text-3xl">People</h1>
      <People mayEdit={mayEdit} />
      {mayEdit ? (
        <Devices />
      ) : (
        <p className="text-soft">A manager takes people on, gives first PINs and enrols devices.</p>
      )}
    </div>
  )
}
