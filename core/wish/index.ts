export { fitsWish, type Wished } from './fitsWish.ts'
export { readWish, TASTES, type Taste, type Wish } from './readWish.ts'
export { sayWish } from './sayWish.ts'
