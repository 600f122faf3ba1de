export { doing, jobOf } from './job.ts'
export { type JobAnswer, startThread } from './pool.ts'
export { createWork, type Work } from './work.ts'
