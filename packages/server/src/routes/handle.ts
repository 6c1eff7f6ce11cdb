import type { NextFunction, Request, Response, Router } from 'express';
import {
  CONTRACTS,
  type Contract,
  type Contracts,
  type ErrorBody,
  JSON_TYPE,
  NAME_HEADER,
  PERSON_HEADER,
  TAB_HEADER,
} from '@inkwell-twin/api';
import type * as z from 'zod';
import { CODES, Failure, type FailureCode, asFailure } from '@inkwell-twin/core';
import { Refusal } from '../compute/refusal';
import { databaseFailure } from '../database/failures';
import type { Person } from '../masters/drafts';
import { fitBody } from './body';
import { diskFailure } from '../shelf/failures';

const statusOf = (code: FailureCode): number => (CODES as Readonly<Record<string, number>>)[code] ?? 400;
/** Seconds after which to try again what could not be done just now. */
const AGAIN = 2;

type Body<K extends keyof Contracts> = Contracts[K] extends Contract<infer B, z.ZodType> ? z.output<B> : never;
type Answer<K extends keyof Contracts> = Contracts[K] extends Contract<z.ZodType, infer R> ? z.input<R> : never;

/** Who asks, by the headers that the browser sends along. @throws Failure `request-invalid` where nobody is named */
export function personOf({ headers }: Request): Person {
  const id = headers[PERSON_HEADER];
  if (typeof id !== 'string' || !/^[A-Za-z0-9-]{8,64}$/.test(id))
    throw new Failure('request-invalid', `Say who you are: ${PERSON_HEADER} is an id of 8 to 64 letters, digits and hyphens.`);
  const raw = headers[NAME_HEADER];
  let name = '';
  try {
    name = decodeURIComponent(typeof raw === 'string' ? raw : '');
  } catch {
    throw new Failure('request-invalid', `${NAME_HEADER} is not percent-encoded as it should be.`);
  }
  return { id, name: plain(name).slice(0, 200) };
}

/** The window that asks. */
export const tabOf = ({ headers }: Request): string => plain(String(headers[TAB_HEADER] ?? '')).slice(0, 64);

/** Text without what can't be kept or shown. */
export const plain = (text: string): string => text.replace(/[\u0000-\u001f\u007f]/g, ' ').trim();

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
      if (contract.body && !request.is('application/json'))
        throw new Failure('type-unknown', 'This route takes JSON: send Content-Type: application/json.');
      // A body that came unread is read by the thread that works on it.
      const unread = Buffer.isBuffer(request.body);
      response.type(contract.answers);
      const answer = await handler({
        params: request.params as Record<string, string>,
        body: (contract.body && !unread ? fitBody(id, request.body) : undefined) as Body<K>,
        request,
        response,
      });
      if (answer !== undefined) response.json(answer);
    };
    run().catch(next);
  });
}

/** What the framework's own errors mean: bodies that are no JSON, packed in an unknown way, too large, cut off, bad escapes. */
function fromFramework(error: unknown): Failure | undefined {
  const { type, status, message } = error as { type?: string; status?: number; message?: string };
  if (type === 'entity.too.large') return new Failure('file-too-large', 'The request is larger than this route takes.');
  if (type === 'entity.parse.failed') return new Failure('request-invalid', 'The request is not JSON.');
  if (status === 415) return new Failure('type-unknown', `The request is encoded in a way that is not known here: ${message}.`);
  if (status !== undefined && status >= 400 && status < 500)
    return new Failure('request-invalid', `The request can’t be read: ${message}.`);
  return undefined;
}

/** Turns whatever was thrown into a status and words; a surprise is logged whole and told short. */
export function errorHandler(log: (what: string, error: unknown) => void) {
  return (thrown: unknown, request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(thrown);
    const error = diskFailure(databaseFailure(thrown));
    let failure = error instanceof Failure ? error : (fromFramework(error) ?? asFailure(error));
    if (failure.code === 'unexpected') {
      log(`${request.method} ${request.path}`, error);
      failure = new Failure(
        'unexpected',
        'Something went wrong on our side. Nothing was written. The server’s log has the details.',
      );
    }
    const status = statusOf(failure.code);
    if (status === 503) response.set('Retry-After', String(AGAIN));
    // A body that is still coming in is not waited for.
    if (failure.code === 'too-slow') response.set('Connection', 'close');
    const body: ErrorBody = {
      error: failure.toJSON(),
      ...(failure instanceof Refusal ? { there: failure.there } : {}),
    };
    // Whatever the route would have answered.
    response.status(status).type(JSON_TYPE).json(body);
  };
}

/** The name that an uploaded file had, without what could lead elsewhere. */
export const nameOf = ({ query }: Request): string =>
  plain((typeof query['name'] === 'string' && query['name']) || 'file')
    .replace(/[\\/]/g, '_')
    .slice(0, 200);

/** What the browser may do with a file or a picture of someone else's making: show it, and nothing more. */
export const SANDBOX = { 'Content-Security-Policy': "sandbox; default-src 'none'", 'X-Content-Type-Options': 'nosniff' };
