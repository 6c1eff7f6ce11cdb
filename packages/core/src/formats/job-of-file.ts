import type { NotUnderstood } from '../contracts/not-understood';
import type { Services } from '../contracts/services';
import { optionFields } from './declarations';
import { recognise } from './recognise';
import { codecOf } from './registry';

/** What a machine does with a file. */
export interface JobOfFile {
  /** What the format is called. */
  readonly label: string;
  /** The standard that it follows, as machine profiles name it. */
  readonly language: string;
  /** The kind of content, and the work itself. */
  readonly kind: string;
  readonly body: unknown;
  /** The mark of origin; null where there is none. */
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
  /** Whether it can become a master: what is left in it can be drawn. */
  readonly comesIn: boolean;
}

/** Whether a file tells a machine what to do, by a standard that machines of the house take. */
export function tellsMachine(bytes: Uint8Array): boolean {
  const target = recognise(bytes);
  return target !== undefined && optionFields(target).some(({ kind }) => kind === 'machine');
}

/** What machines are told by a file: for looking only. @returns null for files that are for no machine */
export async function jobOfFile(bytes: Uint8Array, services: Services): Promise<JobOfFile | null> {
  const target = recognise(bytes);
  if (!target || !tellsMachine(bytes)) return null;
  const codec = await codecOf(target.id);
  const { leaves, mark, notUnderstood } = await codec.read([{ part: '', bytes }], {}, services);
  const [leaf] = leaves;
  if (!leaf) return null;
  const { label, standard } = target;
  const common = { mark, notUnderstood, comesIn: codec.bringIn !== undefined };
  return { label, language: standard, kind: leaf.kind, body: leaf.body, ...common };
}
