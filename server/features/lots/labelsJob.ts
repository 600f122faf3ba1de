import { jobOf } from '../../threads/index.ts'
import type { drawLabels } from './drawLabels.ts'

/** Drawing takes a moment for each label, and a large package: in a thread, and there alone. */
export const LABELS = jobOf<typeof drawLabels>('labels')
