import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type Master,
  NO_RULES,
  SHIPPED_MACHINES,
  houseRulesText,
  machineFrom,
  machineText,
  newMaster,
  writePackage,
} from '@inkwell-twin/core';
import { Output } from '../src/output';
import { CommandLine } from './command-line';

let folder: string;
const commands = new CommandLine();
const twin = (...args: string[]) => commands.run(folder, args);
const json = (...args: string[]) => Output.parse(JSON.parse(twin(...args, '--json').out));

const router = SHIPPED_MACHINES.find(({ id }) => id === 'router')!;
const small = machineFrom({ ...router, id: 'bench-router', name: 'Bench router', area: { width: 200, height: 150, depth: 60 } });

/** A plate with a window whose corners are square, to be routed. */
function plate(width: number): Master {
  const master = newMaster('plate-1', 'Plate', 'Ines Okoro', 'panel', {});
  const style = { fill: null, stroke: '#14213a', strokeWidth: 0.3 };
  const at = { layer: 'route', style } as const;
  return {
    ...master,
    layers: [{ id: 'route', name: 'Route', colour: '#14213a', visible: true, locked: false, process: 'route' }],
    boards: [
      {
        ...master.boards[0]!,
        width: 400,
        height: 300,
        items: [
          { kind: 'rectangle', id: 'plate', name: 'Plate', ...at, x: 20, y: 20, width, height: 80, radius: 6 },
          { kind: 'rectangle', id: 'window', name: 'Window', ...at, x: 40, y: 40, width: 40, height: 30, radius: 0 },
        ],
      },
    ],
  };
}

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-machines-'));
  const packed = { rev: 2, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() };
  writeFileSync(join(folder, 'plate.inkwell'), writePackage({ ...packed, master: plate(120) }));
  writeFileSync(join(folder, 'wide.inkwell'), writePackage({ ...packed, master: plate(250) }));
  writeFileSync(join(folder, 'house_rules.json'), houseRulesText({ ...NO_RULES, machines: [small] }));
  writeFileSync(join(folder, 'router.json'), machineText({ ...small, id: 'third', name: 'Third router' }));
});
afterAll(async () => {
  await commands.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('an option that says nothing beside the others', () => {
  it('is refused with what it needs, and taken with that', () => {
    const write = (...more: string[]) => twin('derive', 'plate.inkwell', '--to', 'hpgl', '--out', 'copies', ...more);
    expect(write('--set', 'count=3').err).toBe('twin: The option “count” of hpgl says something only with --machine M.\n');
    expect(write('--set', 'count=3').code).toBe(2);
    const marks = twin('fit', 'plate.inkwell', '--machine', 'router', '--set', 'markAt=3');
    expect(marks.err).toMatch(/The option “markAt” of gcode says something only with --set marks=drawn\|drilled/);
    expect(twin('fit', 'plate.inkwell', '--machine', 'router', '--set', 'marks=drawn', '--set', 'markAt=30').code).not.toBe(2);
  });
});

describe('twin machines', () => {
  it('lists those of the house and of the bench, with their tools', () => {
    const output = json('machines', 'plate.inkwell');
    expect(output.command === 'machines' && output.machines.map(({ id }) => id)).toEqual([
      'bench-router',
      'cutter',
      'router',
      'needle',
    ]);
    expect(twin('machines').out).toMatch(/End mill 6 mm: route, pocket; 6 mm wide/);
  });
});

describe('twin fit', () => {
  it('says what keeps a part from being made, and what settles it', () => {
    const { code, out } = twin('fit', 'plate.inkwell', '--machine', 'router');
    expect(code).toBe(1);
    expect(out).toMatch(/tight corner: 4 corners of “Window” are tighter than End mill 6 mm/);
    expect(out).toMatch(/--set corners='rounded'/);
    expect(twin('fit', 'plate.inkwell', '--machine', 'router', '--set', 'corners=opened').code).toBe(0);
  });

  it('knows machines of the house, and such as lie in a file', () => {
    const kinds = (...args: string[]): string[] => {
      const output = json('fit', 'wide.inkwell', ...args, '--set', 'corners=rounded');
      return output.command === 'fit' ? output.findings.map(({ kind }) => kind) : [];
    };
    expect(kinds('--machine', 'bench-router')).toEqual(['off the bed']);
    expect(kinds('--machine', 'Bench Router')).toEqual(['off the bed']);
    expect(kinds('--machine', 'router.json')).toEqual(['off the bed']);
    expect(kinds('--machine', 'router')).toEqual([]);
  });

  it('says what is wrong with a machine', () => {
    const wrong = (machine: string): string => {
      const { code, err } = twin('fit', 'plate.inkwell', '--machine', machine);
      expect(code).toBe(2);
      return err;
    };
    expect(wrong('lathe')).toMatch(/no machine “lathe”. Known: bench-router, cutter, router, needle/);
    writeFileSync(join(folder, 'torn.json'), '{');
    expect(wrong('torn.json')).toMatch(/JSON/);
    writeFileSync(join(folder, 'deep.json'), JSON.stringify({ ...router, tools: [{ ...router.tools[0], pass: 40 }] }));
    expect(wrong('deep.json')).toMatch(/deeper/);
    expect(twin('fit', 'plate.inkwell').err).toMatch(/Name a machine/);
  });
});

describe('twin import --process', () => {
  const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="80mm" viewBox="0 0 100 80"><rect x="10" y="10" width="60" height="40" rx="5" fill="none" stroke="#000"/></svg>`;

  it('says how the layers of a file are worked, so that it can go to a machine at once', () => {
    writeFileSync(join(folder, 'plate.svg'), SVG);
    expect(twin('import', 'plate.svg', '--out', 'plain.inkwell').code).toBe(0);
    const wrong = (pair: string): string => twin('import', 'plate.svg', '--out', 'other.inkwell', '--process', pair).err;
    const [, layer] = /It has “([^”]+)”/.exec(wrong('Nowhere=route'))!;
    expect(wrong(`${layer!}=polish`)).toMatch(/needs LAYER=print\|cut/);
    expect(twin('import', 'plate.svg', '--out', 'routed.inkwell', '--process', `${layer!}=route`).code).toBe(0);
    expect(twin('fit', 'routed.inkwell', '--machine', 'router').out).toMatch(/It fits/);
    expect(twin('derive', 'routed.inkwell', '--machine', 'router', '--out', 'routed.nc').code).toBe(0);
    expect(twin('run', 'routed.nc', '--machine', 'router').code).toBe(0);
  });
});

describe('a program for a machine', () => {
  it('is refused until all is settled, then written, run by the bench, and in step', () => {
    expect(twin('derive', 'plate.inkwell', '--machine', 'router', '--out', 'plate.nc')).toMatchObject({ code: 2 });
    expect(twin('derive', 'plate.inkwell', '--machine', 'router', '--set', 'corners=rounded', '--out', 'plate.nc').code).toBe(0);
    const run = json('run', 'plate.nc', '--machine', 'router');
    expect(run).toMatchObject({ command: 'run', runs: true, alarms: [], tools: [1] });
    expect(twin('check', 'plate.inkwell', 'plate.nc').out).toMatch(/in step/);
  });

  it('with a machine of the house can be checked where its rules are not', () => {
    const set = ['--set', 'corners=rounded', '--out', 'own.nc'];
    expect(twin('derive', 'plate.inkwell', '--machine', 'bench-router', ...set).code).toBe(0);
    rmSync(join(folder, 'house_rules.json'));
    expect(twin('check', 'plate.inkwell', 'own.nc').out).toMatch(/in step/);
  });

  it('that was changed by hand is found, and stops the bench where it is not safe', () => {
    const text = readFileSync(join(folder, 'plate.nc'), 'utf8');
    writeFileSync(join(folder, 'deep.nc'), text.replace('Z-9.3', 'Z-9.9'));
    expect(twin('check', 'plate.inkwell', 'deep.nc')).toMatchObject({ code: 1 });
    const { code, out } = twin('run', 'deep.nc', '--machine', 'router');
    expect(code).toBe(1);
    expect(out).toMatch(/into the machine’s own bed/);
    expect(twin('run', 'deep.nc', '--machine', 'lathe').err).toMatch(/on the bench. It has/);
    expect(twin('run', 'deep.nc').err).toMatch(/Name a machine/);
  });
});
