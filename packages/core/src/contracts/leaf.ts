/**
 * The kinds of content: what their copies say, and what a target can say of each feature. Each adds its own line, where its
 * features are, so that nothing here knows one by name.
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- filled in by each kind
export interface Kinds {}
export type KindId = keyof Kinds;

type Said<K, What extends string> = K extends KindId ? (Kinds[K] extends Record<What, infer T> ? T : never) : never;

/** What a target carries of each kind; one that is absent is left out. Kinds that were added from outside have names of their own. */
export type Carries = { readonly [K in KindId]?: Said<K, 'carries'> } & { readonly [kind: string]: object | undefined };

/** One part of what a copy says: a sheet, a path of a tool. */
export type Leaf<K extends string = string> = {
  readonly kind: K;
  readonly key: string;
  /** Its name: that of its board, say. Empty where the format has no place for one. */
  readonly label: string;
  readonly body: K extends KindId ? Said<K, 'body'> : unknown;
};
