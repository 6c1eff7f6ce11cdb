const TOKEN = /"(?:[^"\\]|\\.)*"|[{}[\]:]/gs;

/**
 * Members that an object of a JSON text has twice: a reader may take either (RFC 8259, 4).
 * @param text JSON that was found to be some
 * @returns their names, each as often as it is said again
 */
export function saidTwice(text: string): string[] {
  const twice: string[] = [];
  const open: (Set<string> | null)[] = [];
  let last = '';
  for (const [token] of text.matchAll(TOKEN)) {
    if (token === '{') open.push(new Set());
    else if (token === '[') open.push(null);
    else if (token === '}' || token === ']') open.pop();
    else if (token === ':') {
      const names = open.at(-1)!;
      const name = JSON.parse(last) as string;
      if (names!.has(name)) twice.push(name.slice(0, 60));
      names!.add(name);
    } else last = token;
  }
  return twice;
}
