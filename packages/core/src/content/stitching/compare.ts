import type { CompareSettings, Comparison } from '../../contracts/kind';
import type { Machining } from '../../contracts/machining';
import { compareMachining } from '../machining/compare';
import type { StitchingCarries } from './features';

/** Compares what a needle should sew with what a file makes it sew, stitch by stitch. */
export const compareStitches = (
  master: Machining,
  copy: Machining,
  { tolerance, nameOf }: CompareSettings<StitchingCarries>,
): Comparison =>
  compareMachining(
    master,
    copy,
    { tolerance, nameOf, carries: { order: { outcome: 'restated', words: '' } } },
    {
      tool: ({ tools, tool }, i) => {
        const { number, colour } = tools[tool[i]!]!;
        return `thread ${number}${colour ? `, ${colour}` : ''}`;
      },
      motions: ['a jump', 'a stitch', 'an arc', 'an arc'],
      kinds: { 'depth changed': 'trim changed', 'tool changed': 'thread changed' },
      counted: 'stitches',
    },
  );
