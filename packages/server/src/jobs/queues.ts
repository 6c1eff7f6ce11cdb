/** Masters with more objects than this are large: their jobs never take the last free lane. */
export const LARGE = 2_000;

/** Small jobs wait for no large one: each has a queue of its own. */
export const QUEUES = ['small', 'large'] as const;
export type Queue = (typeof QUEUES)[number];
export const queueFor = (objects: number): Queue => (objects > LARGE ? 'large' : 'small');
