import * as z from 'zod';

// What goes wrong.

export const ErrorBody = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    where: z
      .object({
        file: z.string().optional(),
        line: z.number().optional(),
        byte: z.number().optional(),
        node: z.string().optional(),
      })
      .optional(),
  }),
  /** With 409: the draft that is there instead, null where there is none. */
  there: z.unknown().optional(),
});
export type ErrorBody = z.infer<typeof ErrorBody>;
