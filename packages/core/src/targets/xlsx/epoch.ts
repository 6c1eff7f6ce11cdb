/** Days between the beginning of dates here and in workbooks (ECMA-376-1, 18.17.4.1); before March 1900 they count otherwise. */
export const EPOCH = 25_569;
export const FIRST_DAY = 61 - EPOCH;
