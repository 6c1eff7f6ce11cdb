import { existsSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import {
  type Carries,
  type CarryReport,
  DEFAULT_PATTERN,
  type Difference,
  type DisplayList,
  Failure,
  NATIVE_EXTENSION,
  type NativePackage,
  type Recipe,
  TARGETS,
  allItems,
  atRevision,
  boardOf,
  changesBetween,
  checkCopy,
  compare,
  derive,
  differenceInWords,
  digest,
  digestOf,
  fileName,
  findNode,
  looksNative,
  namesIn,
  newId,
  nodeInWords,
  parseMark,
  parseOptions,
  project,
  readPackage,
  recipeOf,
  recipeOfHow,
  recognise,
  writePackage,
} from '@inkwell-twin/core';
import { shippedFonts, writeWhole } from '@inkwell-twin/render';
import { inFile, readBytes, readMaster } from './files';
import type { Answer } from './output';

export interface Arguments {
  readonly files: readonly string[];
  readonly to: string | undefined;
  readonly options: Readonly<Record<string, string>>;
  readonly board: string | undefined;
  readonly out: string | undefined;
  readonly tolerance: number | undefined;
}

function need(files: readonly string[], count: number, usage: string): void {
  if (files.length < count) throw new Failure('usage', `Use: twin ${usage}`);
}

const reportLines = (report: CarryReport): string[] => [
  report.sentence,
  ...report.lines.map(({ outcome, what, becomes, count, deviation }) => {
    const off = deviation === null ? '' : `, at most ${deviation.toFixed(4)} mm off`;
    return `  ${outcome.padEnd(12)} ${what} (${count}): ${becomes}${off}`;
  }),
];
const differenceLines = (differences: readonly Difference[], indent = '  '): string[] => [
  ...differences.slice(0, 40).map((one) => indent + differenceInWords(one)),
  ...(differences.length > 40 ? [`${indent}… and ${differences.length - 40} more`] : []),
];
const objectsOf = ({ master }: NativePackage): number =>
  master.boards.reduce((sum, board) => sum + [...allItems(board.items)].length, 0);

function info({ files }: Arguments): Answer {
  need(files, 1, 'info FILE');
  const file = files[0]!;
  const bytes = readBytes(file);
  if (looksNative(bytes)) {
    const pkg = inFile(file, () => readPackage(bytes));
    const { master, rev } = pkg;
    const boards = master.boards.map(
      ({ name, width, height }) => `${name}, ${Number(width.toFixed(2))} × ${Number(height.toFixed(2))} mm`,
    );
    return {
      code: 0,
      output: {
        command: 'info',
        file,
        kind: 'master',
        target: null,
        master: { id: master.id, title: master.title, rev, boards, objects: objectsOf(pkg) },
        mark: null,
        notUnderstood: [],
      },
      lines: [
        `${file}: a master, “${master.title}”, r${rev}`,
        `  id ${master.id}`,
        ...boards.map((board) => `  board ${board}`),
        `  ${objectsOf(pkg)} objects, ${pkg.resources.size} files kept inside`,
      ],
    };
  }
  const target = recognise(bytes);
  if (!target) {
    const output = {
      command: 'info' as const,
      file,
      kind: 'unknown' as const,
      target: null,
      master: null,
      mark: null,
      notUnderstood: [],
    };
    return {
      code: 1,
      output,
      lines: [`${file}: unknown. It is neither a master nor one of: ${TARGETS.map(({ label }) => label).join(', ')}`],
    };
  }
  const read = inFile(file, () => target.read(bytes));
  const mark = parseMark(read.mark);
  const says = mark
    ? digestOf(read.list) === mark.says
      ? 'says what it said when it was written'
      : 'was changed since it was written'
    : '';
  return {
    code: 0,
    output: {
      command: 'info',
      file,
      kind: mark ? 'copy' : 'file',
      target: target.id,
      master: null,
      mark,
      notUnderstood: [...read.notUnderstood],
    },
    lines: [
      mark
        ? `${file}: a copy (${target.label}) of master ${mark.master}, r${mark.rev}, written ${mark.written}; it ${says}`
        : `${file}: ${target.label}, without a mark of origin`,
      ...read.notUnderstood.map(({ kind, count }) => `  not understood: ${kind} (${count})`),
    ],
  };
}

function bringIn({ files, out }: Arguments): Answer {
  need(files, 1, 'import FILE --out MASTER');
  if (!out) throw new Failure('usage', 'Use: twin import FILE --out MASTER');
  const file = files[0]!;
  const bytes = readBytes(file);
  const target = recognise(bytes);
  if (!target?.bringIn) {
    const known = TARGETS.filter((one) => one.bringIn).map(({ label }) => label);
    throw new Failure('not-known', `This file can't become a master. Known: ${known.join(', ')}.`, { file });
  }
  if (existsSync(out))
    throw new Failure('name-taken', `${out} exists already, and a master is never written over. Choose another name.`, {
      file: out,
    });
  const read = inFile(file, () => target.bringIn!(bytes, basename(file)));
  const sha = digest(bytes);
  const resource = {
    id: sha,
    name: basename(file),
    mediaType: target.mediaType,
    size: bytes.length,
    role: 'original' as const,
  };
  const master = { ...read.master, id: newId(), resources: [resource] };
  const time = statSync(file).mtime.toISOString();
  const revisions = [{ rev: 1, time, author: '', message: `Brought in from ${basename(file)}`, patches: [] }];
  const pkg: NativePackage = {
    master,
    rev: 1,
    time,
    history: { first: master, revisions },
    resources: new Map([[sha, bytes]]),
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
    },
    lines: [
      `${out}: ${objectsOf(pkg)} objects; the original is kept inside`,
      ...read.notUnderstood.map(({ kind, count }) => `  not understood: ${kind} (${count})`),
    ],
  };
}

function recipeFrom({ to, options, board }: Arguments): Recipe {
  if (!to) throw new Failure('usage', `Name a target: --to ${TARGETS.map(({ id }) => id).join(' | ')}`);
  return recipeOf(to, options, board);
}

function deriveCopy(args: Arguments): Answer {
  need(args.files, 1, 'derive MASTER --to TARGET [--set option=value]... [--board NAME] [--out FILE|DIR]');
  const recipe = recipeFrom(args);
  const pkg = readMaster(args.files[0]!);
  const { master, rev } = pkg;
  const made = derive(pkg, recipe, shippedFonts());
  const board = master.boards.length > 1 ? boardOf(master, recipe.board).name : '';
  const name = fileName(
    DEFAULT_PATTERN,
    { title: master.title, board, rev, version: recipe.target.version(recipe.options) },
    recipe.target.extension,
  );
  const isFolder =
    args.out !== undefined && (args.out.endsWith('/') || (existsSync(args.out) && statSync(args.out).isDirectory()));
  const out = args.out === undefined ? name : isFolder ? join(args.out, name) : args.out;
  protect(out, master.id, recipe);
  writeWhole(out, made.bytes);
  return {
    code: made.defects.length ? 1 : 0,
    output: {
      command: 'derive',
      out,
      bytes: made.bytes.length,
      says: made.says,
      report: made.report as never,
      defects: made.defects as never,
    },
    lines: [
      `${out}: ${made.bytes.length} bytes, r${rev}`,
      ...reportLines(made.report),
      ...(made.defects.length ? ['Read back, it came out otherwise than said:', ...differenceLines(made.defects)] : []),
    ],
  };
}

/** Nothing lands on a master, nor on a copy that another recipe made, nor on a file of unknown origin. */
function protect(out: string, master: string, recipe: Recipe): void {
  if (!existsSync(out)) return;
  const bytes = readBytes(out);
  if (out.endsWith(`.${NATIVE_EXTENSION}`) || looksNative(bytes))
    throw new Failure('name-taken', `${out} is a master; a copy is never written over one. Choose another name.`, {
      file: out,
    });
  const target = recognise(bytes);
  let mark = null;
  try {
    mark = parseMark(target?.read(bytes).mark ?? null);
  } catch {
    // What can't be read has no mark that would allow it to be replaced.
  }
  if (mark?.master !== master || mark.recipe !== recipe.id)
    throw new Failure(
      'name-taken',
      `${out} exists already and was not made by this recipe. Choose another name, or move it away.`,
      { file: out },
    );
}

function carry(args: Arguments): Answer {
  need(args.files, 1, 'carry MASTER --to TARGET [--set option=value]...');
  const recipe = recipeFrom(args);
  const { report } = project(readMaster(args.files[0]!).master, recipe, shippedFonts());
  return {
    code: 0,
    output: { command: 'carry', target: recipe.target.id, report: report as never },
    lines: reportLines(report),
  };
}

function check(args: Arguments): Answer {
  need(args.files, 2, 'check MASTER COPY... [--tolerance MM]');
  const [masterFile, ...copies] = args.files as [string, ...string[]];
  const pkg = readMaster(masterFile);
  const fonts = shippedFonts();
  const results = copies.map((file) => {
    if (!existsSync(file))
      return {
        file,
        ...checkCopy({ bytes: null, whole: false, says: '', recipe: recipeOf('svg', {}), now: pkg.master, then: null }, fonts),
      };
    const bytes = readBytes(file);
    const target = args.to ? recipeFrom(args).target : recognise(bytes);
    if (!target) throw new Failure('not-known', `${file} is of no known kind. Say which with --to TARGET.`, { file });
    let mark = null;
    try {
      mark = parseMark(target.read(bytes).mark);
    } catch {
      // An unreadable copy is a verdict, not an error; the check below finds it and says where.
    }
    if (mark && mark.master !== pkg.master.id)
      throw new Failure('other-master', `${file} is a copy of another master (${mark.master}).`, { file });
    const recipe = args.to
      ? recipeFrom(args)
      : mark
        ? recipeOfHow(mark.how, mark.recipe)
        : recipeOf(target.id, {}, args.board ?? '');
    const then = mark ? atRevision(pkg, mark.rev) : null;
    // The same revision and recipe give the same bytes: writing the copy again tells whether these are they.
    const whole = mark && then ? sameBytes(bytes, derive({ ...then, rev: mark.rev }, recipe, fonts).bytes) : false;
    const result = checkCopy(
      {
        bytes,
        whole,
        says: mark?.says ?? '',
        recipe,
        now: pkg.master,
        then: then?.master ?? null,
        tolerance: args.tolerance,
      },
      fonts,
    );
    if (!mark && result.verdict !== 'in step' && result.verdict !== 'unreadable' && !args.to)
      throw new Failure(
        'no-mark',
        `${file} has no mark of origin. Say how it was made with --to ${target.id} and its --set options.`,
        { file },
      );
    return { file, ...result };
  });
  return {
    code: results.some(({ verdict }) => verdict === 'unreadable')
      ? 2
      : results.every(({ verdict }) => verdict === 'in step')
        ? 0
        : 1,
    output: {
      command: 'check',
      copies: results.map(({ file, verdict, remark, whole, fresh, true: says, proof, differences }) => ({
        file,
        verdict,
        remark,
        whole,
        fresh,
        true: says,
        proof,
        differences: differences as never,
      })),
    },
    lines: results.flatMap(({ file, verdict, remark, proof, differences }) => [
      `${file}: ${verdict}${remark ? ` (${remark})` : ''}. ${proof}`,
      ...differenceLines(differences),
    ]),
  };
}

const sameBytes = (a: Uint8Array, b: Uint8Array): boolean => a.length === b.length && Buffer.compare(a, b) === 0;

type Side = { pkg: NativePackage } | { list: DisplayList; recipe: Recipe };

function compareTwo(args: Arguments): Answer {
  need(args.files, 2, 'compare A B');
  const [a, b] = args.files.slice(0, 2).map((file): Side => {
    const bytes = readBytes(file);
    if (looksNative(bytes)) return { pkg: inFile(file, () => readPackage(bytes)) };
    const target = recognise(bytes);
    if (!target) throw new Failure('not-known', `${file} is neither a master nor a copy of a known kind.`, { file });
    const { list, mark: text } = inFile(file, () => target.read(bytes));
    const mark = parseMark(text);
    return { list, recipe: mark ? recipeOfHow(mark.how, mark.recipe) : recipeOf(target.id, args.options, args.board) };
  }) as [Side, Side];
  if ('pkg' in a && 'pkg' in b) {
    const changes = changesBetween(a.pkg.master, b.pkg.master).map((patch) => {
      const id = patch.op === 'insert' ? (patch.node as { id: string }).id : patch.node;
      const node = findNode(b.pkg.master, id) ?? findNode(a.pkg.master, id);
      return `${node ? nodeInWords(node) : id}: ${patch.op === 'set' ? `${patch.attribute} changed` : patch.op === 'insert' ? 'added' : 'taken out'}`;
    });
    return {
      code: changes.length ? 1 : 0,
      output: { command: 'compare', same: !changes.length, differences: [], changes },
      lines: changes.length ? changes : ['The two masters are the same.'],
    };
  }
  const recipe = 'recipe' in a ? a.recipe : (b as { recipe: Recipe }).recipe;
  const sideOf = (side: Side): DisplayList =>
    'pkg' in side ? project(side.pkg.master, recipe, shippedFonts()).projection : side.list;
  const loose: Carries = recipe.target.carries(recipe.options);
  const pkg = 'pkg' in a ? a.pkg : 'pkg' in b ? b.pkg : null;
  const { differences } = compare(sideOf(a), sideOf(b), {
    tolerance: args.tolerance ?? recipe.target.tolerance,
    order: loose.order,
    nameOf: pkg ? namesIn(pkg.master) : undefined,
  });
  return {
    code: differences.length ? 1 : 0,
    output: { command: 'compare', same: !differences.length, differences: differences as never, changes: [] },
    lines: differences.length ? differenceLines(differences, '') : ['They say the same.'],
  };
}

function targets(): Answer {
  const list = TARGETS.map((target) => {
    const defaults = parseOptions(target, {});
    const carries = target.carries(defaults);
    return {
      id: target.id,
      label: target.label,
      standard: target.standard,
      options: Object.entries(target.options.shape).map(([name, schema]) => {
        const inner = (schema as { def?: { innerType?: { options?: string[] } } }).def?.innerType;
        return { name, values: inner?.options ?? [], default: String(defaults[name]), words: schema.description ?? '' };
      }),
      carries: {
        layers: carries.processes === 'all' ? 'all' : `only ${carries.processes.join(', ')}`,
        'layer names': carries.layerNames,
        text: carries.text === 'outlines' ? 'restated as outlines' : 'kept',
        arcs: carries.arcs === 'kept' ? 'kept' : 'approximated by short lines',
        'free curves':
          carries.cubics === 'kept' ? 'kept' : `approximated by ${carries.cubics === 'arcs' ? 'arcs' : 'short lines'}`,
        fills: carries.fill ? 'kept' : 'left out',
        'line colours': !carries.stroke ? 'left out' : carries.palette ? 'approximated, nearest of a list' : 'kept',
        'line widths': !carries.strokeWidth
          ? 'left out'
          : carries.strokeWidth === true
            ? 'kept'
            : 'approximated, nearest of a list',
        opacity: carries.opacity ? 'kept' : 'left out',
        'sheet size': carries.sheet ? 'kept' : 'left out',
      },
    };
  });
  return {
    code: 0,
    output: { command: 'targets', targets: list },
    lines: list.flatMap(({ id, label, standard, options, carries }) => [
      `${id}: ${label} (${standard})`,
      ...options.map(
        ({ name, values, default: standardValue, words }) =>
          `  --set ${name}=${values.length ? values.join('|') : '…'}  (${standardValue}) ${words}`,
      ),
      ...Object.entries(carries).map(([what, outcome]) => `  ${what}: ${outcome}`),
    ]),
  };
}

/** The commands by name. */
export const COMMANDS: Readonly<Record<string, (args: Arguments) => Answer>> = {
  info,
  import: bringIn,
  derive: deriveCopy,
  carry,
  check,
  compare: compareTwo,
  targets,
};
