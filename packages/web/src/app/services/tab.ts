/** This window, as long as its page is loaded: one person may have several. */
export const TAB = crypto.randomUUID();
