import type * as z from 'zod';
import { isNestedDeeper } from '../../base/bytes/nesting';
import { Failure } from '../../base/failure/failure';

/** Levels of objects and lists in a part of a package; documents of now need far fewer, and what walks them bears more. */
const DEEPEST = 400;

/** @throws Failure `package-damaged` that names the part */
export function parseJson(text: string, path: string): unknown {
  if (isNestedDeeper(text, DEEPEST))
    throw new Failure('package-damaged', `${path} is nested deeper than ${DEEPEST} levels; nothing of it was read.`, {
      node: path,
    });
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Failure('package-damaged', `${path} is not JSON: ${(error as Error).message}.`, { node: path });
  }
}

/** @throws Failure `package-damaged` that names the part, and where in it */
export function fits<T>(schema: z.ZodType<T>, value: unknown, path: string): T {
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new Failure('package-damaged', `${path}: ${issue.path.join('.')} ${issue.message}.`, { node: path });
}
