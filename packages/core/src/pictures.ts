// What corrects pictures, apart from everything else: a worker of the browser needs no more.
export type { Correction } from './document/corrections';
export { correct } from './evaluate/pictures/correct';
export { histogramOf } from './evaluate/pictures/histogram';
