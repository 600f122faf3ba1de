import { ERRORS, type ErrorCode, type FieldProblem, type ProblemDocument } from '@conch/contract'

interface RefusalOptions {
  fields?: FieldProblem[]
  /** With a conflict: what stands there now. */
  current?: unknown
  cause?: unknown
}

/** A request that is refused: a code of the closed list, one sentence, and the fields. */
export class Refusal extends Error {
  readonly code: ErrorCode
  readonly fields: FieldProblem[] | undefined
  readonly current: unknown

  constructor(code: ErrorCode, detail: string, { fields, current, cause }: RefusalOptions = {}) {
    super(detail, { cause })
    this.code = code
    this.fields = fields
    this.current = current
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
    }
  }
}

/** A refusal of one field of what was sent. */
export const invalid = (field: string, message: string): Refusal =>
  new Refusal('invalid', `${field}: ${message}`, { fields: [{ field, message }] })
