/** What other features may use of this one. */

export { SignInDialog } from './SignInDialog.tsx'
