/** Days between the beginning of dates here and in workbooks (ECMA-376-1, 18.17.4.1). */
export const EPOCH = 25_569;
