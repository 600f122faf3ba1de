export { type BisectOptions, bisect, type RootResult } from './bisect.ts'
export { type IntegrateOptions, type Integration, integrate } from './integrate.ts'
export { interpolate, type Table, tableOf } from './interpolate.ts'
