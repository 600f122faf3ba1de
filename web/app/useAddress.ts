import { useCallback } from 'react'
import { useSearchParams } from 'react-router'

/** What a list is asked for: it stands in the address, so that it can be sent, kept and come back to. */
export function useAddress() {
  const [search, setSearch] = useSearchParams()
  const put = useCallback(
    /**
     * Changes what stands there; undefined and '' take it away.
     * @param isNew whether the way back leads to what stood there before
     */
    (change: Record<string, string | undefined>, isNew = false) =>
      setSearch(
        (before) => {
          const next = new URLSearchParams(before)
          for (const [key, value] of Object.entries(change))
            if (value) next.set(key, value)
            else next.delete(key)
          return next
        },
        { replace: !isNew },
      ),
    [setSearch],
  )
  return { search, put }
}
