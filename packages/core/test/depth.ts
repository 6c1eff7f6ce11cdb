/** Whether everything is asked: with more cases, whole corpora and large sizes (npm run test:long). */
export const isLong = process.env['INKWELL_DEPTH'] === 'long';

/** A number of cases, rounds or objects: the usual one, and that of the long tests. */
export const atDepth = (usual: number, long: number): number => (isLong ? long : usual);

/** Cases that a law is asked for: a third of those named, in the long tests three times as many. */
export const runs = (named: number): number => atDepth(Math.ceil(named / 3), 3 * named);
