import { useEffect, useState, useSyncExternalStore } from 'react'
import { devices, type Tray } from './devices.ts'

export function useTray(): Tray {
  return useSyncExternalStore(devices.subscribe, devices.read)
}

const REFRESH_MS = 500

/** What the scale shows, kept up while it wanders. */
export function useScaleReading(): number {
  const tray = useTray()
  const [, refresh] = useState(0)
  useEffect(() => {
    if (tray.driftGPerMin === 0) return
    const timer = setInterval(() => refresh((n) => n + 1), REFRESH_MS)
    return () => clearInterval(timer)
  }, [tray.driftGPerMin])
  return devices.scale.readG()
}
