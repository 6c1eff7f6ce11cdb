import type { NextFunction, Request, Response, Router } from 'express';
import { CONTRACTS, type BodyOf, type Contract, type Contracts, type ErrorBody } from '@inkwell-twin/api';
import type { z } from 'zod';
import { Failure, asFailure } from '@inkwell-twin/core';

const STATUS: Record<string, number> = {
  'not-found': 404,
  'name-taken': 409,
  conflict: 409,
  'nothing-to-update': 409,
  'file-too-large': 413,
  'too-large': 413,
  forbidden: 403,
  'record-damaged': 500,
  unexpected: 500,
};

type Body<K extends keyof Contracts> = Contracts[K] extends Contract<infer B, z.ZodType> ? z.output<B> : never;
type Answer<K extends keyof Contracts> = Contracts[K] extends Contract<z.ZodType, infer R> ? z.input<R> : never;

/** Adds a route by its contract: the body is parsed before the handler sees it, what the handler returns is sent. */
export function on<K extends keyof Contracts>(
  router: Router,
  id: K,
  handler: (input: {
    params: Record<string, string>;
    body: Body<K>;
    request: Request;
    response: Response;
  }) => Promise<Answer<K> | void>,
): void {
  const contract: Contract = CONTRACTS[id];
  router[contract.method](contract.path, (request: Request, response: Response, next: NextFunction) => {
    const run = async () => {
      const parsed = contract.body?.safeParse(request.body);
      if (parsed && !parsed.success) {
        const issue = parsed.error.issues[0]!;
        throw new Failure(
          'request-invalid',
          `The request is not as it should be: ${issue.path.join('.') || 'body'}: ${issue.message}.`,
        );
      }
      const answer = await handler({
        params: request.params as Record<string, string>,
        body: parsed?.data as Body<K>,
        request,
        response,
      });
      if (answer !== undefined) response.json(answer);
    };
    run().catch(next);
  });
}

export type { BodyOf };

/** Turns whatever was thrown into a status and words; a surprise is logged whole and told short. */
export function errorHandler(log: (what: string, error: unknown) => void) {
  return (error: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(error);
    const raw = error as { type?: string; status?: number };
    let failure = asFailure(error);
    if (raw.type === 'entity.too.large') failure = new Failure('file-too-large', 'The request is larger than this route takes.');
    else if (raw.type === 'entity.parse.failed') failure = new Failure('request-invalid', 'The request is not JSON.');
    else if (failure.code === 'unexpected') {
      log(`${request.method} ${request.path}`, error);
      failure = new Failure(
        'unexpected',
        'Something went wrong on our side. Nothing was written. The server’s log has the details.',
      );
    }
    const body: ErrorBody = { error: failure.toJSON() };
    response.status(STATUS[failure.code] ?? 400).json(body);
  };
}
