import { parseArgs } from 'node:util';
import { isMainThread } from 'node:worker_threads';
import { Failure, asFailure, machineWord, targetFor, whereInWords } from '@inkwell-twin/core';
import { COMMANDS } from './commands';
import { type Answer, print } from './output';
import { passwordIn } from './password';
import { machineAsked, presetFor } from './preset';
import { bytesIn } from './size';

const USAGE = `twin: a master, its copies, and which of them still match

  twin info FILE                                   master, copy (with its mark of origin) or unknown
  twin import FILE --out MASTER [--set ppi=300] [--set parts='as pictures'|'left out'] [--set fonts='as outlines'|nearest] [--process LAYER=cut]...
                                                   a supplied file as a new master; parts with filters become pictures
  twin derive MASTER --to TARGET [--set option=value]... [--board NAME]... [--object NAME]... [--table NAME]... [--solid NAME]... [--text NAME]... [--all] [--without FEATURE]...
              [--out FILE|DIR] [--variants ROWS.csv [--serial 001]] [--fit-size 5MB] [--password-file F] [--preset NAME] [--rules FILE]
  twin derive MASTER... --preset NAME... --out DIR [--summary FILE]
                                                   several masters, by several settings, in one go
                                                   with --variants one copy a row; columns are named as parameters are;
                                                   with --fit-size as little loss as keeps it within that size
  twin carry MASTER --to TARGET [--set ...]        the carry-over report, writing nothing
  twin check MASTER COPY... [--tolerance MM] [--to TARGET]
  twin check ARCHIVE                               an archive package, or a folder of one, against its own checksums
  twin compare A B                                 two masters, two copies, or one of each
  twin password COPY [--password-file OLD] [--new-password-file NEW] [--out FILE]
                                                   locks a copy, locks it otherwise, or takes its lock off
  twin machines [MASTER]                           the machines of the bench and of the house, with their tools
  twin fit MASTER --machine M [--set ...]          what keeps it from being made on a machine, and what settles that
  twin run FILE --machine M                        what the machine of the bench says to a file
  twin open FILE [MASTER] --as dxf-r12             what a program of that age sees of a file; all that it was to say?
  twin targets [--page]                            targets, options, what each carries; as the page in docs/

  --preset NAME       settings of copies that the house rules keep under a name; --set says otherwise of single ones
  --rules FILE        the house rules; else the file house_rules*.json in the master's folder or above it
  --password-file F   its first line opens copies that are locked, or locks the one that is derived
  --machine M         the machine that a copy is for, by its id or name, or a file with its profile
  --json   one documented object on standard output and nothing else
Exit code: 0 all in step, 1 something is not, 2 usage or unreadable input.`;

/** Runs one command line. @returns the exit code */
export async function run(args: readonly string[]): Promise<number> {
  const json = args.includes('--json');
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        to: { type: 'string' },
        set: { type: 'string', multiple: true, default: [] },
        board: { type: 'string', multiple: true, default: [] },
        object: { type: 'string', multiple: true, default: [] },
        'all-boards': { type: 'boolean', default: false },
        table: { type: 'string', multiple: true, default: [] },
        solid: { type: 'string', multiple: true, default: [] },
        text: { type: 'string', multiple: true, default: [] },
        all: { type: 'boolean', default: false },
        without: { type: 'string', multiple: true, default: [] },
        out: { type: 'string' },
        variants: { type: 'string' },
        serial: { type: 'string', default: '' },
        'fit-size': { type: 'string' },
        preset: { type: 'string', multiple: true, default: [] },
        summary: { type: 'string' },
        rules: { type: 'string' },
        machine: { type: 'string' },
        as: { type: 'string' },
        process: { type: 'string', multiple: true, default: [] },
        'password-file': { type: 'string' },
        'new-password-file': { type: 'string' },
        page: { type: 'boolean', default: false },
        tolerance: { type: 'string' },
        json: { type: 'boolean', default: false },
        help: { type: 'boolean', short: 'h', default: false },
      },
    });
    const [name, ...files] = positionals;
    if (values.help || !name) {
      console.log(USAGE);
      return values.help ? 0 : 2;
    }
    const command = COMMANDS[name];
    if (!command) throw new Failure('usage', `There is no command “${name}”. Known: ${Object.keys(COMMANDS).join(', ')}.`);
    const options = Object.fromEntries(
      values.set.map((pair) => {
        const at = pair.indexOf('=');
        if (at < 1) throw new Failure('usage', `--set needs option=value, not “${pair}”.`);
        return [pair.slice(0, at), pair.slice(at + 1)];
      }),
    );
    const tolerance = values.tolerance === undefined ? undefined : Number(values.tolerance);
    if (tolerance !== undefined && !(tolerance > 0 && tolerance < 1000))
      throw new Failure('usage', '--tolerance is a number of millimetres above 0.');
    const presets = values.preset.map((one) => presetFor(one, files[0] ?? '', values.rules));
    const kept = presets.length === 1 ? presets[0]! : null;
    if (kept && values.to && values.to !== kept.target)
      throw new Failure('usage', `The settings “${kept.name}” are for ${kept.target}, and --to says ${values.to}.`);
    if (values.machine !== undefined && name !== 'run') {
      const machine = machineAsked(values.machine, files[0] ?? '', values.rules);
      options['machine'] = machineWord(machine);
      values.to ??= kept?.target ?? targetFor(machine).id;
    }
    const target = values.to ?? kept?.target;
    if (target && values.set.length)
      (await import('./needless')).refuseNeedless(target, Object.keys(options), { ...kept?.options, ...options });
    const answer: Answer = await (
      await command()
    )({
      files,
      machine: values.machine,
      as: values.as,
      processes: values.process,
      rules: values.rules,
      to: target,
      options: { ...kept?.options, ...options },
      boards: values.board,
      objects: values.object,
      allBoards: values['all-boards'],
      tables: values.table,
      solids: values.solid,
      texts: values.text,
      all: values.all,
      without: [...(kept?.without ?? []), ...values.without],
      out: values.out,
      variants: values.variants,
      serial: values.serial,
      most: values['fit-size'] === undefined ? undefined : bytesIn(values['fit-size']),
      password: passwordIn(values['password-file']),
      newPassword: passwordIn(values['new-password-file']),
      presets,
      summary: values.summary,
      page: values.page,
      tolerance,
    });
    print(answer, json);
    return answer.code;
  } catch (error) {
    const usage = (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS');
    const failure = usage ? new Failure('usage', (error as Error).message) : asFailure(error);
    const where = whereInWords(failure.where);
    if (json) console.log(JSON.stringify({ command: 'error', error: failure }, null, 2));
    else console.error(`twin: ${failure.message}${where ? ` (${where})` : ''}`);
    return 2;
  }
}

// In a thread of another program it is that program who says what to run.
if (isMainThread) process.exitCode = await run(process.argv.slice(2));
