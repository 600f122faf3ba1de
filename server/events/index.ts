export { hasHappened, latestSequence, type NewEvent } from './chain.ts'
export { type Follower, followWrites, inWrite, type Write } from './write.ts'
