/** The zones that a clock can hang in; Greenwich is not always among those that the browser lists. */
export const ZONES: string[] = [...new Set(['UTC', ...Intl.supportedValuesOf('timeZone')])]

/** Hours at which a bar's day may turn. */
export const HOURS = Array.from({ length: 13 }, (_, hour) => hour)

export const hourText = (hour: number): string => `${String(hour).padStart(2, '0')}:00`

/** The zone of this device: a first guess for a new house. */
export const zoneHere = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
