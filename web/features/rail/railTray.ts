import { followed } from '../../ui/followed.ts'

/** Whether the simulated devices stand beside the rail. */
export const railTray = followed(false)
