export { eventsBehind, hasHappened, latestSequence, type NewEvent } from './chain.ts'
export { type Follower, followWrites, type Heard, hearWrites, inWrite, tellOthers, type Write } from './write.ts'
