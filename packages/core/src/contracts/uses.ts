/** What copies are for. */
export const USES = ['delivery', 'keep', 'older', 'machine', 'data', 'review', 'proxy'] as const;
export type Use = (typeof USES)[number];
