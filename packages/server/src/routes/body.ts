import { type BodyOf, CONTRACTS, type Contract, type Contracts } from '@inkwell-twin/api';
import { Failure, isNestedDeeper } from '@inkwell-twin/core';

/** How deep a request's JSON may be nested: deeper than any document, shallower than anything that walks it. */
const NESTING = 600;

/**
 * Refuses what no store takes (NUL) and what would overflow whoever walks it, before it is parsed.
 * @throws Failure `request-invalid`
 */
export function assertPlainJson(body: Uint8Array): void {
  const text = Buffer.from(body.buffer, body.byteOffset, body.byteLength).toString('latin1');
  if (text.includes('\0') || /(?<!\\)(?:\\\\)*\\u0000/.test(text))
    throw new Failure('request-invalid', 'The request holds a NUL character, which can’t be kept.');
  if (isNestedDeeper(body, NESTING)) throw new Failure('request-invalid', `The request is nested more than ${NESTING} deep.`);
}

/** A body by its contract. @throws Failure `request-invalid` that says where it is not as it should be */
export function fitBody<K extends keyof Contracts>(id: K, value: unknown): BodyOf<K> {
  const parsed = (CONTRACTS[id] as Contract).body!.safeParse(value);
  if (parsed.success) return parsed.data as BodyOf<K>;
  const issue = parsed.error.issues[0]!;
  throw new Failure(
    'request-invalid',
    `The request is not as it should be: ${issue.path.join('.') || 'its body'} ${issue.message}.`,
  );
}

/** The same from bytes. */
export function readBody<K extends keyof Contracts>(id: K, body: Uint8Array): BodyOf<K> {
  assertPlainJson(body);
  let value: unknown;
  try {
    value = JSON.parse(Buffer.from(body.buffer, body.byteOffset, body.byteLength).toString('utf8'));
  } catch {
    throw new Failure('request-invalid', 'The request is not JSON.');
  }
  return fitBody(id, value);
}
