// Draws the floors of core as a house: their rooms, and which floor uses which below it, read from the imports.
import { readFileSync, readdirSync, statSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';

/** Highest first. */
const FLOORS = ['copies', 'formats', 'content', 'evaluate', 'contracts', 'document', 'base'];
const [WIDTH, LEFT, ROOM, LINE, GAP] = [1120, 150, 96, 26, 6];
const STAIRS = 150;

const filesIn = (folder) => readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.ts'));

/** @returns for each floor, the floors that its files import something of */
function uses(core) {
  const found = new Map(FLOORS.map((floor) => [floor, new Set()]));
  for (const floor of FLOORS)
    for (const file of filesIn(join(core, floor))) {
      const at = join(core, floor, file);
      for (const [, path] of readFileSync(at, 'utf8').matchAll(/(?:from|import\() ?'(\.[^']*)'/g)) {
        const other = relative(core, join(dirname(at), path)).split('/')[0];
        if (other !== floor && found.has(other)) found.get(floor).add(other);
      }
    }
  return found;
}

/** Folders, or files where a floor has none. */
function rooms(folder) {
  const names = readdirSync(folder).sort();
  const folders = names.filter((name) => name !== 'gathered' && statSync(join(folder, name)).isDirectory());
  const files = names.filter((name) => name.endsWith('.ts') && name !== 'index.ts').map((name) => name.replace(/\.ts$/, ''));
  return folders.length ? folders : files;
}

/** @returns the house as SVG */
export function house(root) {
  const core = join(root, 'packages/core/src');
  const perLine = Math.floor((WIDTH - LEFT - STAIRS) / ROOM);
  let y = 20;
  const slabs = FLOORS.map((floor, number) => {
    const inside = rooms(join(core, floor));
    const height = Math.max(1, Math.ceil(inside.length / perLine)) * LINE + 2 * GAP + 6;
    const slab = { floor, number, inside, y, height };
    y += height + 8;
    return slab;
  });
  const used = uses(core);
  const middle = (number) => slabs[number].y + slabs[number].height / 2;
  const stairs = slabs.flatMap(({ floor, number }) => {
    const below = [...used.get(floor)].map((one) => FLOORS.indexOf(one)).sort((a, b) => a - b);
    if (!below.length) return [];
    const x = WIDTH - STAIRS + 16 + 19 * number;
    return [
      `<path d="M${x} ${middle(number)}V${middle(below.at(-1))}" stroke="#8b93a7" stroke-width="1.5" fill="none"/>`,
      `<circle cx="${x}" cy="${middle(number)}" r="4.5" fill="#2b4180"/>`,
      ...below.map((one) => `<path d="M${x - 5} ${middle(one) - 5}h10l-5 8z" fill="#17796a"/>`),
    ];
  });
  const drawn = slabs.flatMap(({ floor, inside, y: top, height }) => [
    `<rect x="10" y="${top}" width="${WIDTH - 20}" height="${height}" rx="4" fill="#f7f0e2" stroke="#d9cfb8"/>`,
    `<text x="24" y="${top + 24}" font-weight="600" font-size="16">${floor}</text>`,
    ...inside.flatMap((name, i) => {
      const [x, at] = [LEFT + (i % perLine) * ROOM, top + GAP + 3 + Math.floor(i / perLine) * LINE];
      return [
        `<rect x="${x}" y="${at}" width="${ROOM - 6}" height="${LINE - 5}" rx="3" fill="#ffffff" stroke="#d9cfb8"/>`,
        `<text x="${x + (ROOM - 6) / 2}" y="${at + 15}" text-anchor="middle" font-size="11.5">${name}</text>`,
      ];
    }),
  ]);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${y + 34}" font-family="sans-serif" fill="#14213a">`,
    '<title>The floors of core</title>',
    `<rect width="${WIDTH}" height="${y + 34}" fill="#ffffff"/>`,
    ...drawn,
    ...stairs,
    `<text x="24" y="${y + 16}" font-size="12.5">A dot is a floor, the marks below it are the floors that it uses. Drawn from the imports by scripts/house.mjs.</text>`,
    '</svg>',
    '',
  ].join('\n');
}
