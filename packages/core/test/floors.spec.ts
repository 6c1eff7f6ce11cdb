import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';
import { house } from '../../../scripts/lib/house.mjs';

const root = join(__dirname, '../src');
/** Lowest first; what lies in no folder is a door for others, above all of them. */
const FLOORS = ['base', 'document', 'contracts', 'evaluate', 'content', 'formats', 'copies'];

const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.ts'));
/** What each file imports of core: values, types, and what it imports late. */
const arrows = new Map(
  files.map((file) => {
    const { importedFiles } = ts.preProcessFile(readFileSync(join(root, file), 'utf8'), true, true);
    const found = importedFiles.flatMap(({ fileName }) => {
      const at = join(root, dirname(file), fileName);
      const to = [`${at}.ts`, join(at, 'index.ts')].find((one) => existsSync(one));
      return fileName.startsWith('.') && to ? [relative(root, to)] : [];
    });
    return [file, found] as const;
  }),
);
const floorOf = (file: string): number => (file.includes('/') ? FLOORS.indexOf(file.split('/')[0]!) : FLOORS.length);

/** Files that import each other by way of others (Tarjan, 1972). */
function circles(): string[][] {
  const found: string[][] = [];
  const [index, low] = [new Map<string, number>(), new Map<string, number>()];
  const open: string[] = [];
  const visit = (file: string): void => {
    index.set(file, index.size);
    low.set(file, index.get(file)!);
    open.push(file);
    for (const to of arrows.get(file)!) {
      if (!index.has(to)) visit(to);
      if (open.includes(to)) low.set(file, Math.min(low.get(file)!, low.get(to)!));
    }
    if (low.get(file) !== index.get(file)) return;
    const circle = open.splice(open.indexOf(file));
    if (circle.length > 1) found.push(circle);
  };
  for (const file of arrows.keys()) if (!index.has(file)) visit(file);
  return found;
}

describe('the floors of core', () => {
  it('are folders, and there is none besides', () => {
    expect(files.length).toBeGreaterThan(500);
    expect(files.filter((file) => floorOf(file) < 0)).toEqual([]);
  });
  it('import only what lies below them or in themselves, types included', () => {
    const upwards = [...arrows].flatMap(([file, to]) =>
      to.filter((one) => floorOf(one) > floorOf(file)).map((one) => `${file} → ${one}`),
    );
    expect(upwards).toEqual([]);
  });
  it('have no circle of files that import each other', () => expect(circles()).toEqual([]));
  it('stand on the page as they are; draw them anew with: node scripts/house.mjs', () => {
    const repository = join(root, '../../..');
    expect(house(repository)).toBe(readFileSync(join(repository, 'docs/house.svg'), 'utf8'));
  });
  it('say what they are for', () => {
    for (const floor of FLOORS)
      expect(readFileSync(join(root, floor, 'README.md'), 'utf8').split('\n').length).toBeGreaterThan(6);
  });
});
