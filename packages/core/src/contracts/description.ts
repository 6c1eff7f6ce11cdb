/** What a copy says of itself for lists and catalogues, each in the place that its format has for it. */
export interface CopyDescription {
  readonly title: string;
  readonly keywords: readonly string[];
  readonly caption: string;
  readonly rights: string;
}
