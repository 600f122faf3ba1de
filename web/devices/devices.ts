import { z } from 'zod'
/**
 * The devices that a prep table has. Each is a small interface: the simulator that ships with the
 * product is driven from the tray; a real one is another object of the same shape, put here.
 */

import { readStored, writeStored } from '../app/stored.ts'

export interface Scale {
  /** What the display shows, g, tare taken off. */
  readG(): number
  /** The display's step, g. */
  resolutionG(): number
  tare(): void
}

export interface Refractometer {
  /** °Bx of the drop on the prism; undefined when it is dry. */
  readBrix(): number | undefined
}

export interface AcidMeter {
  /** Titratable acid as citric, g in 100 ml, and pH; undefined without a sample. */
  read(): { acidGPer100Ml: number; pH: number } | undefined
}

export interface Thermometer {
  /** °C at the tip of the probe; undefined when it is put away. */
  readC(): number | undefined
}

const printJobs = z.array(
  z.object({
    /** Where the label can be looked at. */
    href: z.string(),
    title: z.string(),
    at: z.string(),
  }),
)
export type PrintJob = z.infer<typeof printJobs>[number]

export interface LabelPrinter {
  print(job: PrintJob): void
}

/** What the simulators are told from the tray. */
export interface Tray {
  /** What lies on the pan, g, and what was tared, g. */
  panG: number
  tareG: number
  resolutionG: 0.1 | 1
  /** How fast the display wanders, g in a minute. */
  driftGPerMin: number
  /** When the display was last zeroed, ms. */
  zeroedAtMs: number
  brix: number | undefined
  acid: { acidGPer100Ml: number; pH: number } | undefined
  /** °C at the probe. */
  probeC: number | undefined
  printed: PrintJob[]
}

/** Where the printer's roll is kept between visits. */
export interface PrintMemory {
  read: () => PrintJob[] | undefined
  write: (printed: PrintJob[]) => void
}

const MOST_KEPT_PRINTS = 30

/** A tray of simulated devices. Clock and memory come in, so that they can be tested. */
export function createTray(nowMs: () => number = Date.now, memory?: PrintMemory) {
  let state: Tray = {
    panG: 0,
    tareG: 0,
    resolutionG: 1,
    driftGPerMin: 0,
    zeroedAtMs: nowMs(),
    brix: undefined,
    acid: undefined,
    probeC: undefined,
    printed: memory?.read() ?? [],
  }
  const listeners = new Set<() => void>()
  const set = (change: Partial<Tray>) => {
    state = { ...state, ...change }
    for (const listener of listeners) listener()
  }
  const driftG = () => (state.driftGPerMin * (nowMs() - state.zeroedAtMs)) / 60_000
  /** A real one, where somebody plugged it in: it stands in place of the simulator, behind the same words. */
  let plugged: Scale | undefined
  const simulated: Scale = {
    readG: () => {
      const steps = Math.round((state.panG - state.tareG + driftG()) / state.resolutionG)
      return Number((steps * state.resolutionG).toFixed(1))
    },
    resolutionG: () => state.resolutionG,
    tare: () => set({ tareG: state.panG, zeroedAtMs: nowMs() }),
  }
  const scale: Scale = {
    readG: () => (plugged ?? simulated).readG(),
    resolutionG: () => (plugged ?? simulated).resolutionG(),
    tare: () => (plugged ?? simulated).tare(),
  }
  const refractometer: Refractometer = {
    readBrix: () => (state.brix === undefined ? undefined : Number(state.brix.toFixed(1))),
  }
  const acidMeter: AcidMeter = {
    read: () =>
      state.acid && {
        acidGPer100Ml: Number(state.acid.acidGPer100Ml.toFixed(2)),
        pH: Number(state.acid.pH.toFixed(2)),
      },
  }
  const thermometer: Thermometer = {
    readC: () => (state.probeC === undefined ? undefined : Number(state.probeC.toFixed(1))),
  }
  const printer: LabelPrinter = {
    print: (job) => {
      set({ printed: [job, ...state.printed].slice(0, MOST_KEPT_PRINTS) })
      memory?.write(state.printed)
    },
  }
  return {
    scale,
    refractometer,
    acidMeter,
    thermometer,
    printer,
    /** @param real whoever plugs it in calls `set({})` when it shows something new; undefined: unplugged */
    plugScale(real: Scale | undefined) {
      plugged = real
      set({})
    },
    isScaleReal: () => plugged !== undefined,
    read: () => state,
    set,
    subscribe(listener: () => void) {
      listeners.add(listener)
      return () => void listeners.delete(listener)
    },
  }
}

/** The devices at this table. */
const PRINTED_KEY = 'conch:printed'
export const devices = createTray(Date.now, {
  read: () => readStored(PRINTED_KEY, printJobs),
  write: (printed) => writeStored(PRINTED_KEY, printed),
})
