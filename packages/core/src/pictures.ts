// What corrects pictures, apart from everything else: a worker of the browser needs no more.
export type { Correction } from './master/corrections';
export { correct } from './pictures/correct';
export { histogramOf } from './pictures/histogram';
