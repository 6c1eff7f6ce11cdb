import type { SeenLine, SeenText } from './seen';

const PALETTE: Readonly<Record<number, string>> = {
  1: '#ff0000',
  2: '#b8b800',
  3: '#00a000',
  4: '#00a0a0',
  5: '#0000ff',
  6: '#c000c0',
};

/** What is seen, as an SVG drawing. */
export function pictureOf(lines: readonly SeenLine[], texts: readonly SeenText[]): string {
  if (!lines.length && !texts.length) return '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"/>';
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const places of [...lines.map(({ points }) => points), texts.map(({ at }) => at)])
    for (const [x, y] of places)
      [minX, minY, maxX, maxY] = [Math.min(minX, x), Math.min(minY, y), Math.max(maxX, x), Math.max(maxY, y)];
  const colour = (of: string | number): string => (typeof of === 'string' ? of : (PALETTE[of] ?? '#202020'));
  const drawn = lines.map(({ points, colour: of, filled, closed }) => {
    const all = [...points, ...(closed ? points.slice(0, 1) : [])].map(
      ([x, y]) => `${(x - minX).toFixed(3)},${(maxY - y).toFixed(3)}`,
    );
    return `<polyline points="${all.join(' ')}" ${filled ? `fill="${colour(of)}" fill-opacity="0.4" stroke="none"` : `stroke="${colour(of)}"`}/>`;
  });
  const escaped = (words: string) => words.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  const written = texts.map(
    ({ at: [x, y], height, words }) =>
      `<text x="${(x - minX).toFixed(3)}" y="${(maxY - y).toFixed(3)}" font-size="${height}" fill="#202020" stroke="none">${escaped(words)}</text>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-2 -2 ${(maxX - minX + 4).toFixed(3)} ${(maxY - minY + 4).toFixed(3)}" fill="none" stroke-width="0.4">${drawn.join('')}${written.join('')}</svg>`;
}
