// A refusal: a failure with a stable code and a sentence for people. Everything else that throws is ours and answers 500.

import type { ProblemCode } from "@keep-rolling/contract/problem";

export interface FieldProblem {
  path: string;
  message: string;
}

export class Refusal extends Error {
  constructor(
    readonly status: 400 | 401 | 403 | 404 | 409 | 412 | 413 | 415 | 416 | 422 | 429 | 503,
    readonly code: ProblemCode,
    readonly title: string,
    detail: string,
    readonly fields: readonly FieldProblem[] = [],
  ) {
    super(detail);
  }
}
