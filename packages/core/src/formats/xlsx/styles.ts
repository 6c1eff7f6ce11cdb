/** Formats of cells that are used, each once (ECMA-376-1, 18.8). */
export class Styles {
  private readonly formats: string[] = [];
  private readonly cells: string[] = ['<xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/>'];
  private readonly known = new Map<string, number>();

  private cell(key: string, attributes: string): number {
    let at = this.known.get(key);
    if (at === undefined) {
      at = this.cells.push(`<xf ${attributes} borderId="0" fillId="0" xfId="0"/>`) - 1;
      this.known.set(key, at);
    }
    return at;
  }

  private format(code: string): number {
    // Those below 164 are the standard's own (18.8.30).
    let at = this.formats.indexOf(code);
    if (at < 0) at = this.formats.push(code) - 1;
    return this.cell(code, `numFmtId="${164 + at}" fontId="0" applyNumberFormat="1"`);
  }

  get heading(): number {
    return this.cell('heading', 'numFmtId="0" fontId="1" applyFont="1"');
  }
  /** Words that begin as a formula does: still words when somebody opens the cell and leaves it. */
  get quoted(): number {
    return this.cell('quoted', 'numFmtId="0" fontId="0" quotePrefix="1"');
  }
  get day(): number {
    return this.format('yyyy\\-mm\\-dd');
  }
  get time(): number {
    return this.format('yyyy\\-mm\\-dd\\ hh:mm:ss');
  }
  /** Numbers with so many digits after the decimal mark; 0 where nothing is said. */
  digits(decimals: number | null): number {
    return decimals === null ? 0 : this.format(decimals ? `0.${'0'.repeat(decimals)}` : '0');
  }

  xml(head: string, namespace: string): string {
    const quoted = (code: string) => code.replaceAll('"', '&quot;');
    const formats = this.formats.length
      ? `<numFmts count="${this.formats.length}">${this.formats.map((code, i) => `<numFmt numFmtId="${164 + i}" formatCode="${quoted(code)}"/>`).join('')}</numFmts>`
      : '';
    return [
      `${head}<styleSheet xmlns="${namespace}">${formats}`,
      '<fonts count="2"><font><sz val="11"/><name val="Arial"/></font><font><b/><sz val="11"/><name val="Arial"/></font></fonts>',
      '<fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills>',
      '<borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders>',
      '<cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs>',
      `<cellXfs count="${this.cells.length}">${this.cells.join('')}</cellXfs>`,
      '<cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>',
    ].join('');
  }
}
