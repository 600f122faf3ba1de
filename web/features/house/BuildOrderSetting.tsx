import { BUILD_ORDERS, type BuildOrder } from '@conch/core/house'
import { keysOf } from '@conch/core/schema/keysOf'

/** What is poured first on the rail, and why. */
export function BuildOrderSetting({
  mayEdit,
  order,
  onChange,
}: {
  mayEdit: boolean
  order: BuildOrder
  onChange: (order: BuildOrder) => void
}) {
  const { label, reason } = BUILD_ORDERS[order]
  if (!mayEdit)
    return (
      <span>
        <span className="text-soft">poured</span> {label}
        <span className="text-soft">: {reason}</span>
      </span>
    )
  return (
    <span>
      <label className="whitespace-nowrap">
        <span className="text-soft">poured</span>{' '}
        <select className="inplace" value={order} onChange={(e) => onChange(e.target.value as BuildOrder)}>
          {keysOf(BUILD_ORDERS).map((key) => (
            <option key={key} value={key}>
              {BUILD_ORDERS[key].label}
            </option>
          ))}
        </select>
      </label>
      <span className="text-soft">: {reason}</span>
    </span>
  )
}
