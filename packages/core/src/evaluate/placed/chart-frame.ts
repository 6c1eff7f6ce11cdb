import { Failure } from '../../base/failure/failure';
import type { ChartFrame } from '../../document/items/kinds/chart-frame';
import type { Item, Master, PlacedItem } from '../../document/schema';
import { type ColumnValues, cellInWords, computedTable } from '../tables/compute';
import { inHeading } from '../tables/heading';
import type { Services } from '../../contracts/services';
import type { ChartPlan } from '../../contracts/charts';

const MOST_SERIES = 40;

/** The column that is named, or the first that fits. @throws Failure `column-unknown` */
function columnOf(
  columns: readonly ColumnValues[],
  id: string | undefined,
  fits: (one: ColumnValues) => boolean,
  what: string,
  node: string,
): ColumnValues | undefined {
  if (id === undefined) return columns.find(fits);
  const found = columns.find(({ column }) => column.id === id);
  if (!found)
    throw new Failure('column-unknown', `The chart draws ${what} by a column that its table has no more. Choose another.`, {
      node,
    });
  return found;
}

const isNumber = ({ column }: ColumnValues): boolean => column.type === 'number';

/** What a chart of a table draws. @throws Failure `column-unknown`, `nothing-to-draw` */
export function planChart(item: ChartFrame, master: Master): ChartPlan {
  const { columns, table } = computedTable(master.tables!.find(({ id }) => id === item.table)!);
  const up = columnOf([...columns].reverse(), item.up, isNumber, 'its heights', item.id);
  if (!up || !isNumber(up))
    throw new Failure('nothing-to-draw', `“${table.name}” has no column of numbers that a chart could draw.`, { node: item.id });
  const across = columnOf(columns, item.across, (one) => one !== up, 'what lies along the bottom', item.id) ?? up;
  const by = item.by === undefined ? undefined : columnOf(columns, item.by, () => true, 'what is apart', item.id);
  const scale = across.column.type === 'number' ? 'numbers' : across.column.type === 'date' ? 'days' : 'words';
  const series = new Map<string, Map<string | number, number[]>>();
  for (let row = 0; row < table.rows.length; row++) {
    const value = up.numbers[row]!;
    const number = across.numbers[row]!;
    const place = scale === 'words' ? cellInWords(across, row) : number;
    if (Number.isNaN(value) || (typeof place === 'number' && Number.isNaN(place))) continue;
    const name = by ? cellInWords(by, row) || 'empty' : up.column.name;
    let places = series.get(name);
    if (!places) {
      if (series.size >= MOST_SERIES) continue;
      series.set(name, (places = new Map()));
    }
    const values = places.get(place);
    if (values) values.push(value);
    else places.set(place, [value]);
  }
  const mean = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;
  return {
    width: item.width,
    height: item.height,
    size: item.size,
    form: item.form,
    scale,
    across: inHeading(across.column.name, across.column.unit ?? ''),
    up: inHeading(up.column.name, up.column.unit ?? ''),
    series: [...series].map(([name, places]) => {
      const points = [...places].flatMap(([place, values]) =>
        (item.take ?? 'means') === 'means'
          ? [[place, Number(mean(values).toPrecision(12))] as const]
          : values.map((value) => [place, value] as const),
      );
      if (scale !== 'words') points.sort((a, b) => (a[0] as number) - (b[0] as number));
      return { name, points };
    }),
  };
}

/** A chart as the shapes and words that it is drawn with. */
export async function makeChartFrame(item: PlacedItem, master: Master, services: Services): Promise<Item[]> {
  const { charts } = services;
  if (!charts) throw new Failure('charts-missing', 'Charts can’t be drawn here.');
  const own = item as ChartFrame;
  const { items, height } = await charts.drawn(planChart(own, master), services);
  const all = (list: readonly Item[]): Item[] =>
    list.map((one) => ({ ...one, id: own.id, layer: null, ...('items' in one ? { items: all(one.items) } : {}) }) as Item);
  const placed: Item = {
    kind: 'group',
    id: own.id,
    layer: null,
    transform: [1, 0, 0, 1, own.x, own.y + own.height - height],
    items: all(items),
  };
  return [placed];
}
