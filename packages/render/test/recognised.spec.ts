import { type Declaration, addFormats, declarations } from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { cpuTime } from '../../core/test/cpu-time';
import { atDepth } from '../../core/test/depth';

addFormats(nodeFormats);

/** What files begin with, and what they are made of: repeated without end, with something after it that fits nowhere. */
const PIECES = [
  ...[
    ' ',
    '\t',
    '\n',
    '\r\n',
    '0',
    '-',
    '.',
    ',',
    ';',
    '"',
    "'",
    '<',
    '{',
    '[',
    '(',
    '#',
    '/',
    '\\',
    '\u00a0',
    '\ufeff',
    'a',
    'é',
  ],
  ...[
    '<!-- -->',
    '<!--x--> ',
    '<?xml ?>',
    '<!DOCTYPE svg [',
    '<p>',
    '<svg ',
    '{"tables"',
    '"tables":',
    '"tables" :',
    'ISO-10303-21 ',
  ],
  ...['999\n\n', ' 999\nx\n', '0\n', '  0\nSEC', 'IN;', 'SP1;', 'CO "x" ', 'PU1,', 'v 1 2 3\n', 'f 1 2 3\n', '# x\n', 'solid \n'],
  ...[' facet normal 0 0 1\n', 'a;b;c\n', '1,2,"x""\n', '"a\n', 'PK\u0003\u0004', '%PDF', 'RIFF'],
];
const TAILS = ['', 'x', '\n!', '<', '"'];

it('a file is recognised in time that grows with its length, whatever it is made of', () => {
  const length = atDepth(64 * 1024, 1024 * 1024);
  const slow: string[] = [];
  const all: readonly Declaration[] = declarations();
  for (const piece of PIECES)
    for (const tail of TAILS) {
      const bytes = new TextEncoder().encode(piece.repeat(Math.ceil(length / piece.length)) + tail);
      for (const { id, recognise } of all) {
        const begun = cpuTime();
        for (const way of Object.values(recognise)) way(bytes, []);
        // Some milliseconds for a megabyte; what tries each part of it against each other takes hours.
        if (cpuTime() - begun > 1500) slow.push(`${id}: ${JSON.stringify(piece)}, then ${JSON.stringify(tail)}`);
      }
    }
  expect(slow).toEqual([]);
});
