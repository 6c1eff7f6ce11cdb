const CODES: Record<string, string> = { d: '°', p: '±', c: '⌀' };

/** Text of a TEXT entity: %%d, %%p, %%c, %%nnn and \U+XXXX become the characters they stand for; switches go. */
export const plainText = (text: string): string =>
  text
    .replace(/%%([dpc])/gi, (_, code: string) => CODES[code.toLowerCase()]!)
    .replace(/%%(\d{3})/g, (_, code: string) => String.fromCharCode(Number(code)))
    .replace(/%%[uok]/gi, '')
    .replace(/%%%%?/g, (all) => (all.length === 4 ? '%%' : '%'))
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));

/** Text of an MTEXT entity without its formatting: \P is a new line, \f … ; and the like go, braces go. */
export function plainMtext(text: string): { text: string; formatted: boolean } {
  let formatted = false;
  const out = text
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    .replace(/\\\\/g, '\u0001')
    .replace(/\\P/g, '\n')
    .replace(/\\~/g, '\u00a0')
    .replace(/\\[ACFfHQTWp][^;\\{}]*;/g, () => ((formatted = true), ''))
    .replace(/\\S([^;^#/]*)[\^#/]([^;]*);/g, '$1/$2')
    .replace(/\\[LlOoKk]/g, () => ((formatted = true), ''))
    .replace(/\\([{}])/g, (_, brace: string) => (brace === '{' ? '\u0002' : '\u0003'))
    .replace(/[{}]/g, '')

    .replace(/[\u0001\u0002\u0003]/g, (c) => ({ '\u0001': '\\', '\u0002': '{', '\u0003': '}' })[c]!);
  return { text: plainText(out), formatted };
}

/** Words of a file, names included, with the letters that \U+XXXX stands for; those of ASCII and controls are left to who reads a text. */
export const unescaped = (words: string): string =>
  words.includes('\\U+')
    ? words.replace(/\\U\+([0-9A-Fa-f]{4})/g, (all, hex: string) => {
        const code = parseInt(hex, 16);
        return code < 0xa0 ? all : String.fromCharCode(code);
      })
    : words;
