export { startThread } from './pool.ts'
export { createWork, type Work } from './work.ts'
