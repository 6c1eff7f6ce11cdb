/** What stands in the field that an event comes from. */
export const typedIn = (event: Event): string => (event.target as HTMLInputElement | HTMLTextAreaElement).value;
