/** What other features may use of this one. */

export { OwnSecretFirst } from './OwnSecret.tsx'
export { SignInDialog } from './SignInDialog.tsx'
export { SignInPage } from './SignInPage.tsx'
