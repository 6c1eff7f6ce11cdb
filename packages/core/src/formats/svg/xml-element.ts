/** An element of an XML document, with the line it starts on. */
export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: (XmlElement | string)[];
  readonly parent: XmlElement | null;
  readonly line: number;
  /** Of a root: what stands around it that can change how it looks, in words. */
  readonly unknown?: readonly string[];
}
