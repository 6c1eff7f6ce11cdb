/** The master's objects that pieces of a packed leaf come from, each kept once and named by its number. */
export class SourceList {
  readonly names: string[] = [];
  private readonly numbers = new Map<string, number>();

  /** @returns the number of a source; -1 where there is none */
  numberOf(source: string | undefined): number {
    if (source === undefined) return -1;
    let at = this.numbers.get(source);
    if (at === undefined) {
      at = this.names.push(source) - 1;
      this.numbers.set(source, at);
    }
    return at;
  }
}
