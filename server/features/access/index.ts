/** What other features may use of this one. */

export { resetSecret } from './manage.ts'
export { LOCKING } from './patience.ts'
export { assertGoodSecret, comeIn, hashOwn, isSameName, newSecret, signIn } from './signIn.ts'
