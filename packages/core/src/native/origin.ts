/** The part of a copy in an older native version that says where it comes from; a master has none. */
export const ORIGIN = 'origin.txt';
