import { describe, expect, it } from 'vitest'
import { createTray } from './devices.ts'

describe('the simulated scale', () => {
  it('shows what lies on it less the tare, in its steps', () => {
    const tray = createTray(() => 0)
    tray.set({ panG: 412.34 })
    expect(tray.scale.readG()).toBe(412)
    tray.set({ resolutionG: 0.1 })
    expect(tray.scale.readG()).toBe(412.3)
    tray.scale.tare()
    expect(tray.scale.readG()).toBe(0)
    tray.set({ panG: 512.34 })
    expect(tray.scale.readG()).toBe(100)
    tray.set({ panG: 0 })
    expect(tray.scale.readG()).toBe(-412.3)
  })

  it('wanders with time and is right again after a tare', () => {
    let nowMs = 0
    const tray = createTray(() => nowMs)
    tray.set({ panG: 100, driftGPerMin: 3 })
    nowMs = 120_000
    expect(tray.scale.readG()).toBe(106)
    tray.scale.tare()
    expect(tray.scale.readG()).toBe(0)
  })
})

describe('the other devices', () => {
  it('read nothing until there is a sample, then what it is', () => {
    const tray = createTray(() => 0)
    expect(tray.refractometer.readBrix()).toBeUndefined()
    expect(tray.acidMeter.read()).toBeUndefined()
    tray.set({ brix: 53.456, acid: { acidGPer100Ml: 5.987, pH: 2.345 } })
    expect(tray.refractometer.readBrix()).toBe(53.5)
    expect(tray.acidMeter.read()).toEqual({ acidGPer100Ml: 5.99, pH: 2.35 })
  })

  it('tell whoever listens, and keep what was printed, newest first', () => {
    const tray = createTray(() => 0)
    let told = 0
    const stop = tray.subscribe(() => told++)
    tray.printer.print({ href: '/a', title: 'lot 1', at: '2026-01-01' })
    tray.printer.print({ href: '/b', title: 'lot 2', at: '2026-01-01' })
    stop()
    tray.set({ panG: 5 })
    expect(told).toBe(2)
    const kept: unknown[] = []
    const again = createTray(() => 0, {
      read: () => tray.read().printed,
      write: (printed) => kept.push(printed.length),
    })
    expect(again.read().printed).toHaveLength(2)
    again.printer.print({ href: '/c', title: 'lot 3', at: '2026-01-02' })
    expect(kept).toEqual([3])
    expect(tray.read().printed.map((p) => p.title)).toEqual(['lot 2', 'lot 1'])
  })

  it('gives its place to a real scale, and takes it back when that is unplugged', () => {
    const tray = createTray(() => 0)
    tray.set({ panG: 12 })
    let tared = 0
    tray.plugScale({ readG: () => 33.3, resolutionG: () => 0.1, tare: () => tared++ })
    expect([tray.scale.readG(), tray.scale.resolutionG(), tray.isScaleReal()]).toEqual([33.3, 0.1, true])
    tray.scale.tare()
    expect(tared).toBe(1)
    tray.plugScale(undefined)
    expect([tray.scale.readG(), tray.isScaleReal()]).toEqual([12, false])
  })
})
