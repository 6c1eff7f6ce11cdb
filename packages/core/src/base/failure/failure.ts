import type { FailureCode } from './codes';
import './issue-words';

/** Where something went wrong: a file, a line, a byte offset, a node. All optional, all for people. */
export interface Where {
  readonly file?: string;
  readonly line?: number;
  readonly byte?: number;
  readonly node?: string;
}

/** An error at an edge: says what, where and what to do. `code` is stable and for programs. */
export class Failure extends Error {
  constructor(
    readonly code: FailureCode,
    message: string,
    readonly where: Where = {},
  ) {
    super(message);
    this.name = 'Failure';
  }

  toJSON(): { code: FailureCode; message: string; where: Where } {
    return { code: this.code, message: this.message, where: this.where };
  }
}

/** Any thrown value as a failure, without a stack trace. */
export function asFailure(error: unknown, code: FailureCode = 'unexpected'): Failure {
  if (error instanceof Failure) return error;
  return new Failure(code, error instanceof Error ? error.message : String(error));
}

/** The place in words: "line 12", "byte 340". Empty when nothing is known. */
export function whereInWords({ file, line, byte, node }: Where): string {
  const parts = [file, line === undefined ? '' : `line ${line}`, byte === undefined ? '' : `byte ${byte}`, node];
  return parts.filter(Boolean).join(', ');
}
