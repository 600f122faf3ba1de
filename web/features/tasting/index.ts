/** What other features may use of this one. */

export { AxisLine } from './AxisLine.tsx'
