export { type Contents, type Fill, FROTH_LIQUID_SHARE, fillGlass, type IceForWashLine, iceForWashLine } from './fill.ts'
export {
  profileFromWater,
  profileOfShape,
  SHAPES,
  type Shape,
  type WaterLevel,
  type WeighedProfile,
} from './shapes.ts'
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
