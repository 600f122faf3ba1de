import { calibrationFrom } from '@conch/core/trials'
import { jobOf } from '../../threads/index.ts'

type Fitted = Parameters<typeof calibrationFrom>

interface ToFit {
  trials: Fitted[0]
  well: Fitted[1]
  station: Fitted[2]
  ice: Fitted[3]
}

/** What trials say about a station; see `calibrationFrom`. */
export const calibrate = ({ trials, well, station, ice }: ToFit) => calibrationFrom(trials, well, station, ice)

export const CALIBRATE = jobOf<typeof calibrate>('calibrate')
