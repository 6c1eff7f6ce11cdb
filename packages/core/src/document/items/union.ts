/**
 * The kinds of item by name. Each adds its own line, in its own file, so that nothing here knows one by name; so may one that comes
 * from outside.
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- filled in by each kind
export interface Items {}

/** Anything that may stand on a board or in a symbol. */
export type Item = Items[keyof Items];
