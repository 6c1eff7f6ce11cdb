import {
  FONTS,
  measureBy,
  pagesOf,
  type Item,
  type Master,
  type Services,
  cellInWords,
  computedTable,
  planSolid,
} from '@inkwell-twin/core';

/** Columns and rows that are enough to recognise a table by. */
const [COLUMNS, ROWS] = [4, 8];
const [WIDTH, HEIGHT] = [120, 76];

/** A board for a master without any, to be recognised by: the first rows of its first table, its first solid or its first page. */
export async function boardFor(master: Master, services: Services): Promise<Master> {
  if (master.boards.length) return master;
  if (master.tables?.length) return boardOfTable(master);
  return master.solids?.length ? boardOfSolid(master, services) : boardOfText(master, services);
}

/** The upper part of the first page, in letters that can be seen when it is small. */
function boardOfText(master: Master, { fonts }: Services): Master {
  const text = master.texts![0]!;
  const begin = { ...text, blocks: text.blocks.slice(0, 12) };
  const page = { width: WIDTH, height: HEIGHT, margin: 8, size: 3.4 };
  const [first] = pagesOf(master, begin, page, measureBy(fonts)).boards;
  const items = first!.items.filter(({ id }) => id !== 'page-number').map((item) => ({ ...item, layer: master.layers[0]!.id }));
  return { ...master, boards: [{ ...first!, id: 'page', background: '#ffffff', items }] };
}

/** Lines of a solid on a sheet, about it as much again as a tenth. */
async function boardOfSolid(master: Master, { fonts, solids, resource }: Services): Promise<Master> {
  const solid = master.solids![0]!;
  const paper = (items: Item[], width = WIDTH, height = HEIGHT): Master => ({
    ...master,
    boards: [{ id: 'solid', name: 'Solid', width, height, background: '#ffffff', items }],
  });
  let runs: readonly (readonly number[])[];
  try {
    ({ visible: runs } = await solids!.lines(planSolid(master, solid, fonts), 'isometric', { chord: 0.2, angle: 15 }, resource));
  } catch {
    // One that can't be made, or has no edges, has no picture but its sheet.
    return paper([]);
  }
  const xs = runs.flatMap((run) => run.filter((_, i) => i % 2 === 0));
  const ys = runs.flatMap((run) => run.filter((_, i) => i % 2 === 1));
  const [left, right, low, high] = [xs, ys].flatMap((all) => [
    all.reduce((a, b) => Math.min(a, b), Infinity),
    all.reduce((a, b) => Math.max(a, b), -Infinity),
  ]) as [number, number, number, number];
  const scale = Math.min((0.84 * WIDTH) / (right - left || 1), (0.84 * HEIGHT) / (high - low || 1));
  const at = (x: number, y: number): [number, number] => [
    WIDTH / 2 + scale * (x - (left + right) / 2),
    HEIGHT / 2 + scale * (y - (low + high) / 2),
  ];
  return paper(
    runs.map((run, i): Item => ({
      kind: 'polyline',
      id: `line-${i}`,
      layer: master.layers[0]!.id,
      style: { fill: null, stroke: '#14213a', strokeWidth: 0.5 },
      points: Array.from({ length: run.length / 2 }, (_, k) => at(run[2 * k]!, run[2 * k + 1]!)),
      closed: false,
    })),
  );
}

function boardOfTable(master: Master): Master {
  const table = master.tables![0]!;
  const shown = computedTable(table).columns.slice(0, COLUMNS);
  const items: Item[] = [];
  const say = (words: string, column: number, y: number, fill: string) => {
    const text = words.slice(0, 14);
    if (!text) return;
    const style = { fill, stroke: null, strokeWidth: 0 };
    const place = { x: 4 + (WIDTH / COLUMNS - 1) * column, y, size: 4 };
    items.push({
      kind: 'text',
      id: `word-${items.length}`,
      layer: master.layers[0]!.id,
      style,
      text,
      ...place,
      font: FONTS[0],
      align: 'start',
    });
  };
  shown.forEach(({ column }, i) => say(column.name, i, HEIGHT - 8, '#14213a'));
  for (let row = 0; row < Math.min(ROWS, table.rows.length); row++)
    shown.forEach((values, i) => say(cellInWords(values, row), i, HEIGHT - 16 - 7.6 * row, '#46546d'));
  return { ...master, boards: [{ id: 'rows', name: 'Rows', width: WIDTH, height: HEIGHT, background: '#ffffff', items }] };
}
