/** A wet thumb taps twice: so soon the second is none, or it would do what nobody looked at. */
export const SECOND_TAP_MS = 350
