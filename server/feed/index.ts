export { Feed, type Place } from './feed.ts'
export type { Said } from './presence.ts'
