/** By the name that tests ask for: the Debian package, and whether it is here. */
export const JUDGES: Readonly<Record<string, readonly [debian: string, isHere: () => boolean]>>;
