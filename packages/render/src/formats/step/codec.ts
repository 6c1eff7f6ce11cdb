import {
  EXACT_FINENESS,
  type Codec,
  Failure,
  type Leaf,
  type Services,
  type Resource,
  masterOfSolids,
  onlyFile,
  parseMark,
  sealText,
  stepDeclaration,
  digest,
} from '@inkwell-twin/core';

function engineOf({ solids }: Partial<Services>): NonNullable<Services['solids']> {
  if (solids) return solids;
  throw new Failure('setup', 'Exact solids can’t be read or written here: the kernel is not at hand. This is a defect of ours.');
}

/** Words of a header: quotes twice, and nothing but plain letters. */
const quoted = (text: string): string =>
  `'${text
    .replace(/[^\x20-\x7e]/g, '?')
    .replace(/\\/g, '\\\\')
    .replace(/'/g, "''")}'`;

/** The text of a kernel under a header of ours: no clock of a machine, and the mark. */
function withHeader(text: string, mark: string): string {
  const schema = /FILE_SCHEMA\s*\(\(\s*('[^']*')\s*\)\)/.exec(text)?.[1] ?? "''";
  const data = text.slice(text.indexOf('DATA;'));
  const written = parseMark(mark)?.written.slice(0, 19) ?? '';
  return [
    'ISO-10303-21;',
    `/* ${mark} */`,
    'HEADER;',
    `FILE_DESCRIPTION(('Solids of a master'),'2;1');`,
    `FILE_NAME(${quoted('')},${quoted(written)},(''),(''),'Open CASCADE Technology','Inkwell Twin','');`,
    `FILE_SCHEMA((${schema}));`,
    'ENDSEC;',
    data,
  ].join('\n');
}

function markIn(bytes: Uint8Array): string | null {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 8192));
  return /\/\*\s*(inkwell-twin;[^*]*)\*\//.exec(text)?.[1]!.trim() ?? null;
}

export const stepCodec = {
  declaration: stepDeclaration,
  write: async ({ leaves }, options, mark, services) => {
    const plans = leaves.map(({ key, label, body }) => {
      const { plan, colour } = body as Leaf<'mesh'>['body'];
      if (!plan) throw new Failure('setup', `The solid ${key} came without its plan. This is a defect of ours.`);
      return { ...plan, name: label, colour };
    });
    const text = await engineOf(services).writeStep(plans, options['unit'] as 'mm' | 'inch', services.resource);
    return onlyFile(new TextEncoder().encode(withHeader(text, mark)));
  },
  seal: sealText,
  read: async (files, _hints, services) => {
    const { bytes } = files[0]!;
    const { solids, told } = await engineOf(services).readStep(bytes, EXACT_FINENESS);
    return {
      leaves: solids.map(({ name, mesh }): Leaf => ({ kind: 'mesh', key: '', label: name, body: mesh })),
      mark: markIn(bytes),
      notUnderstood: told,
    };
  },
  bringIn: async (bytes, name, services = {}) => {
    const { solids, told } = await engineOf(services).readStep(bytes, EXACT_FINENESS);
    const id = digest(bytes);
    const resource: Resource = {
      id,
      name: name.slice(0, 300),
      mediaType: stepDeclaration.mediaType,
      size: bytes.length,
      role: 'solid',
    };
    const master = masterOfSolids(
      bytes,
      name,
      solids.map(({ name: own, colour }, i) => ({
        name: own,
        ...(colour ? { colour } : {}),
        parameters: [],
        features: [{ id: `solid-${i + 1}-f1`, name: 'As brought in', op: 'file', resource: id, format: 'step', part: i }],
      })),
      [resource],
    );
    return { master, mark: markIn(bytes), notUnderstood: told, resources: new Map([[id, bytes]]) };
  },
} satisfies Codec;
