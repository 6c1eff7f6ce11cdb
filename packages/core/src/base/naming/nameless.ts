/** What a layer is called that has no name in a file, by its number; that of what lies in no group has none. */
export const namelessLayer = (number?: number): string => (number === undefined ? 'Drawing' : `Layer ${number}`);
