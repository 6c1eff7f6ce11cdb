import type { Item, Master, PlacedItem, Prose } from '../../document/schema';
import { chainOf } from './chain';
import type { TextFrame } from '../../document/items/kinds/text-frame';
import { measureBy } from '../fonts/font-book';
import { type Flowed, type Frame, flowText } from '../texts/layout/flow';
import { SETTING } from '../texts/layout/looks';
import type { Services } from '../../contracts/services';

const frameOf = ({ x, y, width, height }: TextFrame): Frame => ({ left: x, top: y + height, width, height });

// A text is laid out once for all of its frames.
const flowed = new WeakMap<Prose, Map<string, Flowed>>();

/** A text as it runs through its frames. @param more frames like the last, as many as it needs */
export function flowOf(master: Master, text: Prose, { fonts }: Pick<Services, 'fonts'>, more = false): Flowed {
  const chain = chainOf(master, text.id);
  const key = JSON.stringify([more, chain.map(({ id, x, y, width, height, size }) => [id, x, y, width, height, size])]);
  let known = flowed.get(text);
  if (!known) flowed.set(text, (known = new Map()));
  let made = known.get(key);
  if (!made) {
    const shapes = new Map(master.resources.map(({ id, width = 4, height = 3 }) => [id, height / width]));
    const type = { ...SETTING, size: chain[0]?.size ?? SETTING.size };
    const setting = { type, measure: measureBy(fonts), layer: '', shapeOf: (id: string) => shapes.get(id) ?? 0.75 };
    function* frames(): Generator<Frame> {
      yield* chain.map(frameOf);
      const last = chain.at(-1);
      if (more && last) for (let i = 0; i < 5000; i++) yield frameOf(last);
    }
    made = flowText(text.blocks, frames(), setting);
    known.set(key, made);
  }
  return made;
}

/** What a frame shows of its text. */
export function makeTextFrame(item: PlacedItem, master: Master, services: Pick<Services, 'fonts'>): Item[] {
  const { id, text } = item as TextFrame;
  const prose = master.texts!.find((one) => one.id === text)!;
  const at = chainOf(master, text).findIndex((one) => one.id === id);
  const filled = flowOf(master, prose, services).filled[at];
  return (filled?.items ?? []).map((one) => ({ ...one, id, layer: null }));
}
