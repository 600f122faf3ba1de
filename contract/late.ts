/** Words that a device said while it stood alone: sent when the house is heard again. */

/** How long ago it was said, in whole seconds by the device's own clock: what that clock shows may be wrong. */
export const SAID_AGO = 'conch-said-ago'
/** How far the house was, by its chain of events, when the device heard it last. */
export const SEES = 'conch-sees'
/** Older words are not sent: the house would not know any more whether it has heard them. */
export const MOST_LATE_S = 2 * 86_400
