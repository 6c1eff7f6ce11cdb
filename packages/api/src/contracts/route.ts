import type * as z from 'zod';

/** One route: where it is, what it takes, what it answers. Server, web and the OpenAPI document read the same line. */
export interface Contract<B extends z.ZodType = z.ZodType, R extends z.ZodType = z.ZodType> {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  /** Express style: `:name` for parameters. */
  readonly path: string;
  readonly summary: string;
  readonly body: B | null;
  readonly answer: R;
  /** Names of what may stand behind the question mark. */
  readonly query: readonly string[];
  /** Media type of what it takes: JSON where there is a body, a file as it is, or nothing. */
  readonly takes: string | null;
  /** Media type of what it answers. */
  readonly answers: string;
}

export const [JSON_TYPE, FILE_TYPE, PNG_TYPE, SVG_TYPE] = [
  'application/json',
  'application/octet-stream',
  'image/png',
  'image/svg+xml',
] as const;

export const route = <B extends z.ZodType, R extends z.ZodType>(
  method: Contract['method'],
  path: string,
  summary: string,
  body: B | null,
  answer: R,
  query: readonly string[] = [],
  { takes = null, answers = JSON_TYPE }: Partial<Pick<Contract, 'takes' | 'answers'>> = {},
): Contract<B, R> => ({ method, path, summary, body, answer, query, takes: body ? JSON_TYPE : takes, answers });
