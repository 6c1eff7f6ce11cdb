import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newMaster, writePackage } from '@inkwell-twin/core';
import { Output } from '../src/output';
import { CommandLine } from './command-line';

let folder: string;
const commands = new CommandLine();
const twin = (...args: string[]) => commands.run(folder, args);
const verdict = (file: string, ...more: string[]): string => {
  const { out } = twin('check', 'card.inkwell', file, ...more, '--json');
  const output = Output.parse(JSON.parse(out));
  return output.command === 'check' ? output.copies[0]!.verdict : '';
};

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'inkwell-password-'));
  const master = newMaster('card-1', 'Card', 'Ines Okoro', 'panel', {});
  master.boards[0]!.items = [
    {
      kind: 'text',
      id: 't',
      layer: master.layers[0]!.id,
      style: { fill: '#14213a', stroke: null, strokeWidth: 0 },
      text: 'Sedge',
      x: 10,
      y: 10,
      size: 6,
      font: 'Commissioner',
      align: 'start',
    },
  ];
  const packed = { master, rev: 2, time: '2026-05-04T08:10:00Z', history: null, resources: new Map() };
  writeFileSync(join(folder, 'card.inkwell'), writePackage(packed));
  writeFileSync(join(folder, 'word'), 'reed warbler north\nand a remark\n');
  writeFileSync(join(folder, 'other'), '\ufeffpike and perch here\r\n');
  writeFileSync(join(folder, 'empty'), '\n');
});
afterAll(async () => {
  await commands.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('passwords on the command line', () => {
  it('lock a copy, open it for a check and for a look, and are changed and taken off', () => {
    const made = twin('derive', 'card.inkwell', '--to', 'pdf', '--out', 'shut.pdf', '--password-file', 'word');
    expect([made.code, made.out]).toEqual([0, expect.stringContaining('AES-256')]);
    expect(verdict('shut.pdf')).toBe('unreadable');
    expect(verdict('shut.pdf', '--password-file', 'other')).toBe('unreadable');
    expect(verdict('shut.pdf', '--password-file', 'word')).toBe('in step');
    expect(twin('info', 'shut.pdf', '--password-file', 'word').out).toMatch(/says what it said/);
    expect(twin('password', 'shut.pdf', '--password-file', 'word', '--new-password-file', 'other').code).toBe(0);
    expect(verdict('shut.pdf', '--password-file', 'word')).toBe('unreadable');
    expect(verdict('shut.pdf', '--password-file', 'other')).toBe('in step');
    // The same recipe may write over its own copy, locked or not; another one may not.
    expect(twin('derive', 'card.inkwell', '--to', 'pdf', '--out', 'shut.pdf', '--password-file', 'word').code).toBe(0);
    expect(twin('derive', 'card.inkwell', '--to', 'pdf', '--set', 'bleed=3', '--out', 'shut.pdf').code).toBe(2);
    expect(twin('password', 'shut.pdf', '--password-file', 'word', '--out', 'open.pdf').code).toBe(0);
    expect(verdict('open.pdf')).toBe('in step');
    expect(verdict('shut.pdf', '--password-file', 'word')).toBe('in step');
  });

  it('that are none, or are for what can’t be locked, write nothing', () => {
    const before = readFileSync(join(folder, 'card.inkwell'));
    const wrong = (...args: string[]): string => {
      const { code, err } = twin(...args);
      expect(code).toBe(2);
      return err;
    };
    expect(wrong('derive', 'card.inkwell', '--to', 'pdf', '--out', 'a.pdf', '--password-file', 'empty')).toMatch(/empty/);
    expect(wrong('derive', 'card.inkwell', '--to', 'svg', '--out', 'a.svg', '--password-file', 'word')).toMatch(
      /can’t be locked/,
    );
    expect(wrong('password', 'card.inkwell', '--new-password-file', 'word')).toMatch(/no kind that can be locked/);
    expect(wrong('derive', 'card.inkwell', '--to', 'pdf', '--password-file', 'nowhere')).toMatch(/no file nowhere/);
    twin('derive', 'card.inkwell', '--to', 'pdf', '--out', 'plain.pdf');
    expect(wrong('password', 'plain.pdf')).toMatch(/not locked/);
    expect(readFileSync(join(folder, 'card.inkwell')).equals(before)).toBe(true);
  });
});
