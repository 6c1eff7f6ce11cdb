type Attributes = Readonly<Record<string, string>>;

/** Who defines the names in parts of packages: standards, and those who extended them before they were some. */
const OWNERS = new RegExp(
  '^(' +
    [
      'http://schemas[.]openxmlformats[.]org/',
      'http://schemas[.]microsoft[.]com/', // term-guard: standard (3MF core 1.3, 1.2; ECMA-376-3, 7)
      'http://purl[.](oclc|org)[./]',
      'http://www[.]w3[.]org/',
      'http://www[.]idpf[.]org/',
      'http://www[.]daisy[.]org/',
      'urn:oasis:',
      'urn:schemas-',
      'urn:org:documentfoundation:', // term-guard: standard (ODF 1.3 extended, 3.18)
      'urn:inkwell-twin:',
      'http://openoffice[.]org/', // term-guard: standard (ODF 1.3 extended, 3.18)
    ].join('|') +
    ')',
);

const prefixOf = (name: string): string => {
  const at = name.indexOf(':');
  return at < 0 ? '' : name.slice(0, at);
};
const isSpace = (name: string): boolean => name.charCodeAt(0) === 120 && (name === 'xmlns' || name.startsWith('xmlns:'));

/**
 * Which prefixes stand for names that nobody here knows (Namespaces in XML 1.0, 6): such a name is another one, whatever
 * stands behind its prefix. A prefix that nothing is said of counts as known.
 */
export class Spaces {
  private readonly foreign = new Set<string>();
  /** What was so before elements that are open said otherwise: by depth. */
  private readonly before: { readonly depth: number; readonly prefix: string; readonly was: boolean }[] = [];
  private depth = 0;

  /** Goes into an element. @returns whether some prefix is foreign there */
  enter(attributes: Attributes): boolean {
    this.depth++;
    for (const name in attributes)
      if (isSpace(name)) {
        const prefix = name.slice(6);
        this.before.push({ depth: this.depth, prefix, was: this.foreign.has(prefix) });
        this.put(prefix, !!attributes[name] && !OWNERS.test(attributes[name]!));
      }
    return this.foreign.size > 0;
  }

  leave(): void {
    while (this.before.at(-1)?.depth === this.depth) {
      const { prefix, was } = this.before.pop()!;
      this.put(prefix, was);
    }
    this.depth--;
  }

  private put(prefix: string, isForeign: boolean): void {
    if (isForeign) this.foreign.add(prefix);
    else this.foreign.delete(prefix);
  }

  /** Whether any name within reach may be foreign. */
  get any(): boolean {
    return this.foreign.size > 0;
  }

  /** The name of an element without its prefix; that of a foreign one with it, so that it is like none that is known. */
  element(name: string): string {
    const prefix = prefixOf(name);
    return this.foreign.has(prefix)
      ? `{${prefix}}${name.slice(prefix ? prefix.length + 1 : 0)}`
      : name.slice(name.indexOf(':') + 1);
  }

  /** Attributes, foreign ones by names that are like none that is known; those without a prefix belong to their element. */
  attributes(all: Attributes): Attributes {
    return Object.fromEntries(
      Object.entries(all).map(([name, value]) => {
        const prefix = prefixOf(name);
        return [prefix && this.foreign.has(prefix) ? `{${prefix}}${name.slice(prefix.length + 1)}` : name, value];
      }),
    );
  }
}
