import { useEffect } from 'react'

/** The screen stays on as long as the page is there; taken again whenever it is seen again. Where no browser can, nothing happens. */
export function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined
    let isGone = false
    const take = async () => {
      if (isGone || document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return
      try {
        const taken = await navigator.wakeLock.request('screen')
        if (isGone) void taken.release()
        else lock = taken
      } catch {
        // A tablet that saves its battery does not let itself be kept awake.
      }
    }
    void take()
    const again = () => void take()
    document.addEventListener('visibilitychange', again)
    return () => {
      isGone = true
      document.removeEventListener('visibilitychange', again)
      void lock?.release()
    }
  }, [])
}
