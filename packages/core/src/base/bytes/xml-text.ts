const SIGNS: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;

/**
 * Text for XML. Characters that XML can't hold are written as `_xHHHH_`, and so is what looks like such a word
 * (ECMA-376-1, 22.9.2.19).
 */
export const xmlText = (text: string): string =>
  text
    .replace(/_(?=x[0-9A-Fa-f]{4}_)/g, '_x005F_')
    .replace(/[&<>"]/g, (sign) => SIGNS[sign]!)
    .replace(CONTROL, (sign) => `_x${sign.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}_`)
    // A reader of XML takes any end of a line for a plain one.
    .replace(/\r/g, '_x000D_');

/** What such words mean. */
export const plainText = (text: string): string =>
  text.includes('_x') ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, code: string) => String.fromCharCode(parseInt(code, 16))) : text;

/** Text for XML of formats that have no such words: what XML can't hold is left away. */
export const plainXml = (text: string): string => text.replace(CONTROL, '').replace(/[&<>"]/g, (sign) => SIGNS[sign]!);
