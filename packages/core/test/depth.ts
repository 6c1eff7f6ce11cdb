/** Whether everything is asked: with more cases, whole corpora and large sizes (npm run test:long). */
export const isLong = process.env['INKWELL_DEPTH'] === 'long';

/** A number of cases, rounds or objects, or whatever else: the usual one, and that of the long tests. */
export const atDepth = <T = number>(usual: T, long: T): T => (isLong ? long : usual);

/** Cases that a law is asked for: a third of those named, in the long tests three times as many. */
export const runs = (named: number): number => atDepth(Math.ceil(named / 3), 3 * named);
