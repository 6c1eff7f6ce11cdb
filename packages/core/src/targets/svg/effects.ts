/** Properties that change a look and have no place in a master: the values that change nothing, and what it is called. */
export type Effects = Readonly<Record<string, readonly [plain: RegExp, words: string]>>;
export const EFFECTS: Effects = {
  filter: [/^none\b/, 'filter'],
  transform: [/^none\b/, 'transform by style'],
};
export const LINE_EFFECTS: Effects = {
  'vector-effect': [/^none\b/, 'line width that does not scale'],
};
export const TEXT_EFFECTS: Effects = {
  'letter-spacing': [/^(normal|inherit|initial|[+-]?[\d.]+(px|pt|pc|mm|cm|in|em|ex|rem|%)?)\s*$/i, 'letter spacing'],
  'word-spacing': [/^normal\b/, 'word spacing'],
  'text-decoration': [/^none\b/, 'text with a line'],
  'baseline-shift': [/^baseline\b/, 'shifted baseline'],
  'dominant-baseline': [/^(auto|alphabetic)$/, 'baseline'],
  'writing-mode': [/^(lr-tb|lr|horizontal-tb)$/, 'writing direction'],
};

/** The effects that are in force, each in words: "line ends (round)". */
export function effectsIn(properties: Readonly<Record<string, string>>, effects: Effects): string[] {
  const found: string[] = [];
  for (const property in properties) {
    const effect = effects[property];
    if (!effect) continue;
    const [plain, words] = effect;
    const value = properties[property]!;
    if (plain.test(value) || Number.parseFloat(value) === 0) continue;
    found.push(/^[a-z-]+$/.test(value) ? `${words} (${value})` : words);
  }
  return found;
}
