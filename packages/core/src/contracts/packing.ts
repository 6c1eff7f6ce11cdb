import type { Packed } from './kind';

type Numbers = Uint8Array | Uint32Array | Int32Array | Float64Array;
const TYPES = { Uint8Array, Uint32Array, Int32Array, Float64Array } as const;

/** Splits an object into its typed arrays and the rest, which is JSON; objects in it may hold arrays too. */
export function packObject(body: object): Packed {
  const buffers: ArrayBufferView[] = [];
  const split = (value: unknown): unknown => {
    if (ArrayBuffer.isView(value)) {
      const known = value.constructor.name in TYPES;
      // A platform's own kind of bytes may lie in memory that others use: it goes as a copy.
      buffers.push(known ? value : new Uint8Array(value as Uint8Array));
      return { '#': buffers.length - 1, type: known ? value.constructor.name : 'Uint8Array' };
    }
    if (Array.isArray(value) || value === null || typeof value !== 'object') return value;
    return Object.fromEntries(Object.entries(value).map(([name, inner]) => [name, split(inner)]));
  };
  return { head: split(body), buffers };
}

/** Puts together again what `packObject` split. */
export function unpackObject<T>({ head, buffers }: Packed): T {
  const join = (value: unknown): unknown => {
    if (Array.isArray(value) || value === null || typeof value !== 'object') return value;
    const { '#': at, type } = value as { '#'?: number; type?: keyof typeof TYPES };
    if (at !== undefined && type) {
      const view = buffers[at]! as Numbers;
      const Type = TYPES[type];
      return view instanceof Type
        ? view
        : new Type(view.buffer as ArrayBuffer, view.byteOffset, view.byteLength / Type.BYTES_PER_ELEMENT);
    }
    return Object.fromEntries(Object.entries(value).map(([name, inner]) => [name, join(inner)]));
  };
  return join(head) as T;
}
