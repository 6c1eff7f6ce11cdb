import { digest } from '@inkwell-twin/core/shapes';

/**
 * What everybody may know a person by: it opens nothing. The id itself is the only key to a person's drafts, and goes nowhere but
 * from their own browser to the server.
 */
export const publicPerson = (id: string): string => digest(`person ${id}`).slice(0, 24);
