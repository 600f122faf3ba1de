export { formOf } from './formOf.ts'
export { FORMATS, type Format, NewerFormat, upcast } from './upcast.ts'
