/** The part that makes a native file a copy in an older version. */
export const ORIGIN = 'origin.txt';
