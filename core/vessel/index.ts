export { type Contents, type Fill, fillGlass, type IceForWashLine, iceForWashLine } from './fill.ts'
export {
  brimMlOf,
  heightMmOf,
  levelMmOf,
  type ProfilePoint,
  profileProblem,
  radiusMmAt,
  type VesselProfile,
  volumeMlBelow,
  wettedAreaM2,
} from './vessel.ts'
