/** Cells and sheets as workbooks name them (ECMA-376-1, 18.17.2.3). */
export function columnLetters(at: number): string {
  let letters = '';
  for (let rest = at + 1; rest > 0; rest = Math.floor((rest - 1) / 26))
    letters = String.fromCharCode(65 + ((rest - 1) % 26)) + letters;
  return letters;
}
/** Column heads of a sheet of summaries, and what its name ends in. */
export const SUMMARY_HEADS = ['Summary', 'Value'] as const;
export const SUMMARY_END = ' summary';

export const quotedSheet = (name: string): string => `'${name.replaceAll("'", "''")}'!`;
