/** What belongs to a sheet and not to what is on it, by its layer and by its id. */
export const GROUNDS = 'sheet-grounds';
export const MARKS = 'sheet-marks';

/** What was put there by a sheet, by its id. */
export const SHEET_IDS: ReadonlySet<string> = new Set([GROUNDS, MARKS]);
