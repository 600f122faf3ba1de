import { ERRORS, type ErrorCode, type FieldProblem, type ProblemDocument } from '@conch/contract'

interface RefusalOptions {
  fields?: FieldProblem[]
  /** With a conflict: what stands there now. */
  current?: unknown
  /** Seconds until it is heard again. */
  waitS?: number
  cause?: unknown
}

/** A request that is refused: a code of the closed list, one sentence, and the fields. */
export class Refusal extends Error {
  readonly code: ErrorCode
  readonly fields: FieldProblem[] | undefined
  readonly current: unknown
  readonly waitS: number | undefined

  constructor(code: ErrorCode, detail: string, { fields, current, waitS, cause }: RefusalOptions = {}) {
    super(detail, { cause })
    this.code = code
    this.fields = fields
    this.current = current
    this.waitS = waitS
  }

  toProblem(): ProblemDocument {
    const { status, title } = ERRORS[this.code]
    return {
      type: `urn:lazy-conch:problem:${this.code}`,
      title,
      status,
      detail: this.message,
      code: this.code,
      ...(this.fields ? { fields: this.fields } : {}),
      ...(this.current === undefined ? {} : { current: this.current }),
      ...(this.waitS === undefined ? {} : { waitS: this.waitS }),
    }
  }
}

/** A refusal of one field of what was sent. */
export const invalid = (field: string, message: string): Refusal =>
  new Refusal('invalid', `${field}: ${message}`, { fields: [{ field, message }] })
