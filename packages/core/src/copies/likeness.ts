import { Sketch } from '../base/bytes/sketch';
import { kindById } from '../content/kinds';
import type { CopyContent } from '../contracts/codec';

/**
 * What a copy is recognised by when it has lost its mark and was changed: a sample of its pieces.
 * @returns up to 128 whole numbers below 2^31, to be held against another's with `resemblance`
 */
export function likenessOf({ leaves }: CopyContent): readonly number[] {
  const sketch = new Sketch();
  for (const { kind, body } of leaves) kindById(kind).sample(body, sketch);
  return sketch.sample();
}
