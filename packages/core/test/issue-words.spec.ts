import * as z from 'zod';
import { Failure } from '../src/web';

/** What a schema says of a value. */
const said = (schema: z.ZodType, value: unknown): string => schema.safeParse(value).error!.issues[0]!.message;

describe('what a schema finds wrong', () => {
  // Whoever can fail knows the words.
  expect(Failure.name).toBe('Failure');
  it.each([
    [z.number().max(100_000), 1e6, 'is more than 100,000, the most that is allowed'],
    [z.number().min(0.1), 0, 'is less than 0.1, the least that is allowed'],
    [z.number().lt(5), 5, 'is not less than 5'],
    [z.number().positive(), 0, 'is not more than 0'],
    [z.int(), 1.5, 'is not a whole number'],
    [z.number(), 'x', 'is not a number'],
    [z.number(), undefined, 'is missing'],
    [z.string().min(1), '', 'is empty'],
    [z.string().max(3), 'four', 'has more than 3 characters'],
    [z.array(z.number()).min(2), [1], 'has fewer than 2 entries'],
    [z.enum(['a', 'b']), 'c', 'is none of a, b'],
    [z.literal('a'), 'c', 'is not a'],
    [z.strictObject({ a: z.number() }), { a: 1, b: 2 }, 'says “b”, which is not known here'],
    [z.union([z.number(), z.boolean()]), 'x', 'is none of the things that it may be'],
    [z.string().refine((text) => text !== 'no', 'says no'), 'no', 'says no'],
  ] as const)('%# is said in words that go on from its name', (schema, value, words) => {
    expect(said(schema, value)).toBe(words);
  });
});
