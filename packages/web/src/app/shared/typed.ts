/** What stands in the field that an event comes from. */
export const typedIn = (event: Event): string => (event.target as HTMLInputElement | HTMLTextAreaElement).value;

/** Whether the box that an event comes from is ticked. */
export const tickedIn = (event: Event): boolean => (event.target as HTMLInputElement).checked;
