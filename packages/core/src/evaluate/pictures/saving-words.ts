import type { MadePictures } from './made';
import type { Saving } from './shrunk';

const million = (pixels: number): string => (pixels / 1e6).toPrecision(2);

/** "are made smaller: 12 million pixels become 1.1; colours off by 0.9 ΔE on average, structure 97 % alike". */
export function savingInWords(pictures: MadePictures): string {
  const all = [...pictures.values()].flatMap(({ saving }): Saving[] => (saving ? [saving] : []));
  const sum = (of: (saving: Saving) => number): number => all.reduce((total, one) => total + of(one), 0);
  const mean = (of: (saving: Saving) => number): number => sum(of) / Math.max(1, all.length);
  const [before, after] = [sum((one) => one.before), sum((one) => one.after)];
  const sizes = before === after ? `packed as JPEG` : `${million(before)} million pixels become ${million(after)}`;
  const off = mean(({ deltaE }) => deltaE).toFixed(1);
  const alike = Math.floor(100 * mean(({ ssim }) => ssim));
  return `are made smaller: ${sizes}; colours off by ${off} ΔE on average, structure ${alike} % alike`;
}
