/** The floors of core as a house, as SVG. */
export function house(root: string): string;
