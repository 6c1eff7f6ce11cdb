import { existsSync, statSync } from 'node:fs';
import { basename } from 'node:path';
import {
  bringInAny,
  Failure,
  type Master,
  type NativePackage,
  PROCESSES,
  nativeInside,
  newId,
  partWishes,
  readPackage,
  writePackage,
} from '@inkwell-twin/core';
import { writeWhole } from '@inkwell-twin/render';
import { besideOf, inFile, services, readBytes } from '../files';
import type { Answer } from '../output';
import { type Arguments, need, objectsOf } from './shared';

export async function bringInFile({ files, out, options, processes }: Arguments): Promise<Answer> {
  need(files, 1, 'import FILE --out MASTER');
  if (!out) throw new Failure('usage', 'Use: twin import FILE --out MASTER');
  const file = files[0]!;
  const bytes = readBytes(file);
  const wishes = partWishes(options);
  if (existsSync(out))
    throw new Failure('name-taken', `${out} exists already, and a master is never written over. Choose another name.`, {
      file: out,
    });
  const inside = await nativeInside(bytes);
  // It is the master already: its bytes, as they travelled.
  if (inside) return opened(inside, file, out);
  const read = await inFile(file, () => bringInAny(bytes, basename(file), { ...services(), beside: besideOf(file) }, wishes));
  const master = withProcesses({ ...read.master, id: newId() }, processes);
  const time = statSync(file).mtime.toISOString();
  const revisions = [{ rev: 1, time, author: '', message: `Brought in from ${basename(file)}`, patches: [] }];
  const pkg: NativePackage = {
    master,
    rev: 1,
    time,
    history: { first: master, revisions },
    resources: new Map(read.kept.map((one) => [one.resource.id, one.bytes])),
  };
  writeWhole(out, writePackage(pkg));
  return {
    code: 0,
    output: {
      command: 'import',
      file,
      out,
      master: master.id,
      objects: objectsOf(pkg),
      notUnderstood: [...read.notUnderstood],
      asPictures: read.asPictures ?? 0,
      asOutlines: read.asOutlines ?? 0,
    },
    lines: [
      `${out}: ${objectsOf(pkg)} objects; the original is kept inside`,
      ...(read.asPictures ? [`  as pictures of themselves at ${wishes.ppi} ppi: parts with a filter (${read.asPictures})`] : []),
      ...(read.asOutlines ? [`  as outlines: texts in fonts that the file carries (${read.asOutlines})`] : []),
      ...read.notUnderstood.map(({ kind, count }) => `  not understood: ${kind} (${count})`),
    ],
  };
}

/**
 * A master whose layers are worked as a command line says.
 * @param said each `LAYER=process`
 * @throws Failure `usage` that lists the layers, or the processes
 */
function withProcesses(master: Master, said: readonly string[]): Master {
  return said.reduce((before, pair) => {
    const at = pair.lastIndexOf('=');
    const [name, process] = [pair.slice(0, at), pair.slice(at + 1)];
    const known = PROCESSES.find((one) => one === process);
    if (at < 1 || !known) throw new Failure('usage', `--process needs LAYER=${PROCESSES.join('|')}, not “${pair}”.`);
    if (!before.layers.some((layer) => layer.name === name))
      throw new Failure(
        'usage',
        `There is no layer “${name}” in that file. It has ${before.layers.map((layer) => `“${layer.name}”`).join(', ')}.`,
      );
    const layers = before.layers.map((layer) => (layer.name === name ? { ...layer, process: known } : layer));
    return { ...before, layers };
  }, master);
}

/** A master that travelled inside a copy, as a file of its own. */
function opened(inside: Uint8Array, file: string, out: string): Answer {
  const pkg = readPackage(inside);
  writeWhole(out, inside);
  const objects = objectsOf(pkg);
  return {
    code: 0,
    output: {
      command: 'import',
      file,
      out,
      master: pkg.master.id,
      objects,
      notUnderstood: [],
      asPictures: 0,
      asOutlines: 0,
    },
    lines: [`${out}: the master that ${basename(file)} has inside, “${pkg.master.title}”, r${pkg.rev}, ${objects} objects`],
  };
}
