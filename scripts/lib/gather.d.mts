/** The text of each list by where it belongs under the root. */
export function lists(root: string): Record<string, string>;
/** Writes what has changed. */
export function gather(root: string): void;
