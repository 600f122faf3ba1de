import { useCallback } from 'react'
import { useLocation, useNavigate, useSearchParams } from 'react-router'

/** What a list is asked for: it stands in the address, so that it can be sent, kept and come back to. */
export function useAddress() {
  const [search] = useSearchParams()
  const { pathname } = useLocation()
  const navigate = useNavigate()
  const put = useCallback(
    /**
     * Changes what stands there; undefined and '' take it away.
     * @param isNew whether the way back leads to what stood there before
     */
    (change: Record<string, string | undefined>, isNew = false) => {
      // As it is now, not as it was drawn last: words may arrive while a row that was pressed is still being opened.
      const { pathname: now, search: before } = window.location
      if (now !== pathname) return
      const next = new URLSearchParams(before)
      for (const [key, value] of Object.entries(change))
        if (value) next.set(key, value)
        else next.delete(key)
      void navigate(`?${next}`, { replace: !isNew })
    },
    [navigate, pathname],
  )
  return { search, put }
}
