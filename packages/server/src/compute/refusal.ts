import { Failure } from '@inkwell-twin/core';

/** A step or a draft that does not fit what is there: the answer says what is there, so that nobody has to guess. */
export class Refusal extends Failure {
  /** @param there the draft as it is, or null where there is none */
  constructor(
    message: string,
    readonly there: unknown,
  ) {
    super('conflict', message);
  }
}
