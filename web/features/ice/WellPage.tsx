import { mayDo } from '@conch/contract'
import { bySlug, type Station, type Well } from '@conch/core/house'
import { RANGES, type Range } from '@conch/core/schema/ranges'
import { Link, useParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { useSaveThing } from '../../foresight/index.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure } from '../../ui/States.tsx'
import { Gear } from './Gear.tsx'
import { IceOfWell } from './IceOfWell.tsx'
import { Scoops } from './Scoops.tsx'

/** A bar position: its room, its gear, its ice, its scoops. */
export function WellPage() {
  const { well: slug = '' } = useParams()
  const { house } = useHouse()
  const well = bySlug(house.wells, slug)
  if (!well) return <Failure error={`There is no well “${slug}”.`} />
  return <WellSheet key={slug} well={well} />
}

function WellSheet({ well }: { well: Well }) {
  const { house } = useHouse()
  const who = useWho()
  const save = useSaveThing()
  const mayEdit = mayDo(who.role, 'editHouse')
  const put = (change: Partial<Well>) =>
    save(`/api/wells/${well.slug}`, { ...well, ...change }, house.revisions.wells[well.slug] ?? 0)
  const takeOut = async (station: Station) => {
    const before = well
    if (await put({ stations: well.stations.filter((s) => s !== station) }))
      toast(`${station.name} is gone from the ${well.name}.`, {
        action: {
          label: 'Take it back',
          onClick: () => void save(`/api/wells/${well.slug}`, before, (house.revisions.wells[well.slug] ?? 0) + 1),
        },
      })
  }
  const number = (
    label: string,
    value: number | undefined,
    range: Range,
    onChange: (v: number) => void,
    step = 1,
    digits = 1,
  ) => <NumberField {...{ label, value, ...range, step, digits, onChange }} isReadOnly={!mayEdit} isSettling />
  return (
    <div className="px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to="/ice">
          Ice bench
        </Link>
      </p>
      <h1 className="text-3xl">{well.name}</h1>
      <p className="mb-4 flex flex-wrap gap-x-6 gap-y-1 border-y border-hair py-2">
        <span>
          <span className="text-soft">room</span>{' '}
          {number('Room', well.roomTemperatureC, RANGES.wellRoomC, (roomTemperatureC) => put({ roomTemperatureC }))} °C
        </span>
        <span>
          <span className="text-soft">to the guest</span>{' '}
          {number('Seconds to the guest', well.handOverS, RANGES.handOverS, (handOverS) => put({ handOverS }), 5, 0)} s
        </span>
        <span className="caption">glasses wait where each glass says, in the House</span>
      </p>
      <Gear well={well} mayEdit={mayEdit} put={put} onTakeOut={(station) => void takeOut(station)} />
      <div className="mt-6 grid gap-x-10 lg:grid-cols-2">
        <IceOfWell well={well} mayEdit={mayEdit} put={put} />
        <Scoops well={well} mayEdit={mayEdit} put={put} />
      </div>
    </div>
  )
}
