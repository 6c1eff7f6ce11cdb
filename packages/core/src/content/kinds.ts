import { Failure } from '../base/failure/failure';
import type { ContentKind } from '../contracts/kind';
import { declareKind } from './declarations';
import { gathered } from './gathered/kinds';

/** Whatever it is of: who asks a kind hands it what came from it. */
type AnyKind = ContentKind<unknown, unknown, unknown>;
const known = new Map<string, AnyKind>(Object.values(gathered).map((one) => [one.id, one as AnyKind]));

/** Adds a kind of content. Its name must be free, or taken by the very same one. */
export function addKind<S, B, C>(kind: ContentKind<S, B, C>): void {
  const before = known.get(kind.id);
  if (before && before !== (kind as unknown)) throw new Failure('kind-taken', `There is a kind of content “${kind.id}” already.`);
  known.set(kind.id, kind as AnyKind);
  declareKind(kind);
}

/** @throws Failure `kind-unknown` */
export function kindById(id: string): AnyKind {
  const kind = known.get(id);
  if (kind) return kind;
  throw new Failure('kind-unknown', `There is no kind of content “${id}”. Known: ${[...known.keys()].join(', ')}.`);
}
