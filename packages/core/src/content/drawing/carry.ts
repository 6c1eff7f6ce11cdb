/** Whether a feature is there as it is. */
export const isKept = (carry: unknown): carry is 'kept' => carry === 'kept';
/** How a feature is rewritten; null where it is kept or left out. */
export const how = <C>(carry: C): Exclude<C, string> | null => (typeof carry === 'object' ? (carry as Exclude<C, string>) : null);
