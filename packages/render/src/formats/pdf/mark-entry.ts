/** The entry of the information dictionary that holds the mark of origin, for programs that drop the metadata stream (ISO 32000-2, 14.3.3). */
export const MARK_ENTRY = 'InkwellTwin';
