import type { Machining } from '../../contracts/machining';
import { type Codec, onlyFile } from '../../contracts/codec';
import { sealText } from '../../contracts/seal';
import { machineOfOptions } from '../machine-options';
import { gcodeDeclaration } from './declare';
import { readProgram } from './read';
import { writeProgram } from './write';

export const gcodeCodec = {
  declaration: gcodeDeclaration,
  write: ({ leaves, title = '' }, options, mark) => {
    const machine = machineOfOptions(options);
    const inch = (options['unit'] === 'as the machine' ? machine.unit : options['unit']) === 'inch';
    const spelling = { inch, numbered: options['numbers'] === 'every line', title: `${title} for ${machine.name}` };
    return onlyFile(writeProgram(leaves[0]!.body as Machining, mark, spelling));
  },
  seal: sealText,
  read: (files) => {
    const { moves, mark, notUnderstood } = readProgram(files[0]!.bytes);
    return { leaves: [{ kind: 'machining', key: '', label: '', body: moves }], mark, notUnderstood };
  },
} satisfies Codec;
