import { useEffect, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { flagSchema, readStored, writeStored } from '../../app/stored.ts'
import { IDLE_LOCK_MINUTES, useIdleLock } from '../../app/useIdleLock.ts'
import { wearTheme } from '../../theme/theme.ts'
import { useAwake } from './useAwake.ts'

const LIGHT = 'conch:rail-light'

/** Everything is as large as in a hand, on whatever screen: eleven steps are 44 px. @returns ends it */
function inTheHand(): () => void {
  const { style } = document.documentElement
  const before = style.fontSize
  style.fontSize = '16px'
  return () => {
    style.fontSize = before
  }
}

export interface Light {
  isLight: boolean
  onLight: (on: boolean) => void
}

/** A screen behind the bar: dark unless this device was told otherwise, large, and awake. */
export function useInHand(title: string): Light {
  const { book } = useHouse()
  const [isLight, setLight] = useState(() => readStored(LIGHT, flagSchema) ?? false)
  useAwake()
  useIdleLock(book.settings.idleLockMinutes ?? IDLE_LOCK_MINUTES)
  useEffect(() => wearTheme(isLight ? 'chart' : 'lantern'), [isLight])
  useEffect(inTheHand, [])
  useEffect(() => {
    document.title = title
  }, [title])
  return {
    isLight,
    onLight: (on) => {
      writeStored(LIGHT, on)
      setLight(on)
    },
  }
}
