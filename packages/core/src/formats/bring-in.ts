import type { Services } from '../contracts/services';
import { digest } from '../base/bytes/hasher';
import { Failure } from '../base/failure/failure';
import { readPackage } from '../document/native';
import { Master, type Resource } from '../document/schema';
import { assertSound } from '../document/sound';
import type { Codec, ImportPreview, ReadMaster } from '../contracts/codec';
import type { PartWishes } from '../contracts/wishes';
import { tellsMachine } from './job-of-file';
import { recognise } from './recognise';
import { type Unpacked, unpacked } from './unpacked';
import { wayFor } from './way-for';
import { codecOf } from './registry';

/** A format that files come in from and that no copy is made in. */
export interface Source {
  readonly label: string;
  readonly mediaType: string;
  readonly recognise: (head: Uint8Array) => boolean;
  readonly bringIn: NonNullable<Codec['bringIn']>;
}
const sources = new Map<string, Source>();

/** Adds formats to bring in from. */
export function addSources(added: readonly Source[]): void {
  for (const source of added) sources.set(source.label, source);
}

type Way = Pick<Source, 'mediaType' | 'bringIn'> & Pick<Codec, 'withBeside'>;

async function sourceOf(bytes: Uint8Array): Promise<Way | undefined> {
  const target = recognise(bytes);
  const { bringIn, withBeside } = target ? await codecOf(target.id) : ({} as Partial<Codec>);
  if (target && bringIn) return { mediaType: target.mediaType, bringIn, ...(withBeside ? { withBeside } : {}) };
  return [...sources.values()].find((source) => source.recognise(bytes.subarray(0, 4096)));
}

const KNOWLEDGE: Parameters<typeof unpacked>[2] = {
  comesIn: (bytes) =>
    recognise(bytes) !== undefined || [...sources.values()].some((one) => one.recognise(bytes.subarray(0, 4096))),
  namedIn: async (bytes) => {
    const names: string[] = [];
    (await sourceOf(bytes))?.withBeside?.(bytes, (name) => void names.push(name));
    return names;
  },
};

/** How a file would be read, where it says too little of itself for that to be certain; null for all others. */
export async function lookAt(bytes: Uint8Array, name: string, wishes: Partial<PartWishes>): Promise<ImportPreview | null> {
  const target = recognise(bytes);
  return (target && (await codecOf(target.id)).look?.(bytes, name, wishes)) ?? null;
}

/** The native package that travels inside a file of another format; null where none does that can be opened. */
export async function nativeInside(bytes: Uint8Array): Promise<Uint8Array | null> {
  const target = recognise(bytes);
  try {
    const found = target && (await (await codecOf(target.id)).nativeInside?.(bytes));
    if (found) readPackage(found);
    return found ?? null;
  } catch (error) {
    // The file is what it is without it, too.
    if (error instanceof Failure) return null;
    throw error;
  }
}

/** A file as a new document to keep: the original and all pictures with it. */
export interface Brought extends ReadMaster {
  /** Its resources are those of `kept`. */
  readonly master: Master;
  readonly kept: readonly { readonly resource: Resource; readonly bytes: Uint8Array }[];
}

/**
 * @param wishes of parts that a master can't hold
 * @throws Failure `not-known` that says what could be brought in, or that of its reader
 */
export async function bringInAny(
  bytes: Uint8Array,
  name: string,
  services: Partial<Services>,
  wishes?: PartWishes,
): Promise<Brought> {
  const own = await sourceOf(bytes);
  const inner = own ? null : await unpacked(bytes, name, KNOWLEDGE);
  const file: Unpacked = inner ?? { bytes, name, ...(services.beside ? { beside: services.beside } : {}) };
  const source = own ?? (inner && (await sourceOf(inner.bytes)));
  if (!source) {
    // It is known for what it is, and nothing that could be edited is in it.
    if (tellsMachine(bytes))
      throw new Failure(
        'not-known',
        `“${name}” tells a machine what to do: it is for looking only, and can’t become a master. Bring in the drawing that it was made from.`,
        { file: name },
      );
    throw new Failure('not-known', `“${name}” can't become a master: it is of a kind that is not read. ${wayFor(name, bytes)}`, {
      file: name,
    });
  }
  const whole = (file.beside && source.withBeside?.(file.bytes, file.beside)) ?? file.bytes;
  const read = await source.bringIn(whole, file.name, services, wishes);
  const id = digest(bytes);
  const pictures = read.master.resources.map((resource) => ({ resource, bytes: read.resources!.get(resource.id)! }));
  const original: Resource = {
    id,
    name: name.slice(0, 300),
    mediaType: inner ? 'application/octet-stream' : source.mediaType,
    size: bytes.length,
    role: 'original',
  };
  // A picture that is a master is its own original.
  const kept = pictures.some(({ resource }) => resource.id === id) ? pictures : [{ resource: original, bytes }, ...pictures];
  const master = { ...read.master, resources: kept.map(({ resource }) => resource) };
  // What could be written and not be opened again would be lost.
  const { error } = Master.safeParse(master);
  const issue = error?.issues[0];
  if (issue)
    throw new Failure('not-held', `“${name}” holds something that a master can't: ${issue.path.join('.')}: ${issue.message}.`, {
      file: name,
    });
  assertSound(master);
  return { ...read, master, kept };
}
