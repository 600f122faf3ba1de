/** Every way a request can be refused. The key is sent as `code`; forgetting one does not compile. */
export const ERRORS = {
  malformedJson: { status: 400, title: 'The body is not JSON' },
  invalid: { status: 422, title: 'Something in it is not allowed' },
  cannotCompute: { status: 422, title: 'This drink cannot be computed' },
  notFound: { status: 404, title: 'There is no such thing here' },
  nobody: { status: 401, title: 'Sign in first' },
  locked: { status: 401, title: 'The screen is locked: say who it is' },
  wrongSecret: { status: 401, title: 'That is not right' },
  lockedOut: { status: 403, title: 'Locked out, except on devices of the house' },
  tooMany: { status: 429, title: 'Too many at once: wait a moment' },
  notAllowed: { status: 403, title: 'Your role may not do this' },
  conflict: { status: 409, title: 'Somebody else was faster' },
  exists: { status: 409, title: 'It is there already' },
  immutable: { status: 409, title: 'History does not change' },
  notSetUp: { status: 409, title: 'The house is not set up yet' },
  tooLarge: { status: 413, title: 'The body is too large' },
  wrongHost: { status: 421, title: 'This is not an address of the house' },
  wrongType: { status: 415, title: 'The body must be JSON' },
  busy: { status: 503, title: 'The house is busy' },
  notReady: { status: 503, title: 'The house is not ready' },
  internal: { status: 500, title: 'Something went wrong on our side' },
} as const satisfies Record<string, { status: number; title: string }>

export type ErrorCode = keyof typeof ERRORS

/** What is wrong at one place of what was sent. */
export interface FieldProblem {
  /** Dotted, like "pours.0.amount.value"; empty for the whole body. */
  field: string
  message: string
}

/** RFC 9457 problem document, with our code and the fields. */
export interface ProblemDocument {
  type: string
  title: string
  status: number
  detail: string
  code: ErrorCode
  fields?: FieldProblem[]
  /** With `conflict`: what stands there now. */
  current?: unknown
  /** With `tooMany`: seconds until it is heard again. */
  waitS?: number
}
