export { eventsBehind, happenedSince, hasHappened, latestSequence, type NewEvent } from './chain.ts'
export {
  type Follower,
  followWrites,
  type Heard,
  hearWrites,
  inWrite,
  type Late,
  tellOthers,
  type Write,
} from './write.ts'
