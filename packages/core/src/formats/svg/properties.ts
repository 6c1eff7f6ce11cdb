export type Properties = Readonly<Record<string, string>>;
