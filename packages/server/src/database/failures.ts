import { Failure, type FailureCode } from '@inkwell-twin/core';

/** What PostgreSQL's error classes and our connection's troubles mean to a person (PostgreSQL 15, appendix A). */
const MEANINGS: readonly (readonly [test: RegExp, code: FailureCode, message: string])[] = [
  [/^53100$/, 'unavailable', 'The database has no room on its disk. Nothing was kept of this; make room and try again.'],
  [/^53300$/, 'unavailable', 'The database has too many connections just now. Nothing was kept of this; try again in a moment.'],
  [/^53/, 'unavailable', 'The database is short of resources just now. Nothing was kept of this; try again in a moment.'],
  [/^25006$/, 'unavailable', 'The database can only be read just now. Nothing was kept of this; try again later.'],
  [
    /^(55P03|40001|40P01)$/,
    'unavailable',
    'Others are changing the same just now. Nothing was kept of this; try again in a moment.',
  ],
  [
    /^(57014|25P03)$/,
    'unavailable',
    'The database took too long over this, and it was given up. Nothing was kept of it; try again.',
  ],
  [/^(08|57P)/, 'unavailable', 'The database can’t be reached just now. Nothing was kept of this; it is tried again by itself.'],
  [
    /^(ECONN|EPIPE|ETIMEDOUT|ENOTFOUND|EHOSTUNREACH)/,
    'unavailable',
    'The database can’t be reached just now. Nothing was kept of this.',
  ],
  [/^58/, 'unavailable', 'The database can’t read or write its files. Nothing was kept of this; its disk should be looked at.'],
  [/^XX00[12]$/, 'unavailable', 'The database’s files are damaged. Nothing was kept of this; its disk should be looked at.'],
  [/^22/, 'request-invalid', 'The request holds a character or a number that can’t be kept. Nothing was kept of it.'],
];

/** A driver's error as a failure with words; anything else as it came. */
export function databaseFailure(error: unknown): unknown {
  if (error instanceof Failure || typeof error !== 'object' || error === null) return error;
  const { code, message } = error as { code?: unknown; message?: unknown };
  const known = typeof code === 'string' ? code : connectionLost(String(message)) ? 'ECONNRESET' : undefined;
  const meaning = known === undefined ? undefined : MEANINGS.find(([test]) => test.test(known));
  return meaning ? Object.assign(new Failure(meaning[1], meaning[2]), { cause: error }) : error;
}

/** The driver's own words where the server or the pool is gone; they carry no code. */
const connectionLost = (message: string): boolean =>
  /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error|Cannot use a pool after|Client was closed|not queryable/i.test(
    message,
  );
