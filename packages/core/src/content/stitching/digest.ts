import type { Hasher } from '../../base/bytes/hasher';
import type { Machining } from '../../contracts/machining';
import { digestMachining } from '../machining/digest';

/** What a needle sews, to a thousandth of a mm, with threads of which colours. */
export function digestStitches(moves: Machining, into: Hasher): void {
  digestMachining(moves, into);
  into.update(JSON.stringify(moves.tools.map(({ number, colour }) => [number, colour ?? ''])));
}
