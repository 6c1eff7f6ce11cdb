import type * as z from 'zod';
import { Failure } from '../failure/failure';

/** Levels of objects and lists in a part of a package; documents of now need far fewer, and what walks them bears more. */
const DEEPEST = 400;

function assertShallow(text: string, path: string): void {
  let depth = 0;
  let inString = false;
  for (let i = 0; i < text.length; i++) {
    const sign = text.charCodeAt(i);
    if (inString) {
      if (sign === 0x5c) i++;
      else if (sign === 0x22) inString = false;
    } else if (sign === 0x22) inString = true;
    else if (sign === 0x7b || sign === 0x5b) {
      if (++depth > DEEPEST)
        throw new Failure('package-damaged', `${path} is nested deeper than ${DEEPEST} levels; nothing of it was read.`, {
          node: path,
        });
    } else if (sign === 0x7d || sign === 0x5d) depth--;
  }
}

/** @throws Failure `package-damaged` that names the part */
export function parseJson(text: string, path: string): unknown {
  assertShallow(text, path);
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
