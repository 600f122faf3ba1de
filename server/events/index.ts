export { latestSequence, type NewEvent } from './chain.ts'
export { inWrite, type Write } from './write.ts'
