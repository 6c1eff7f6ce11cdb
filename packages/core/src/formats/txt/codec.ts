import type { ProseBody } from '../../content/prose/prose';
import type { Codec } from '../../contracts/codec';
import type { PartWishes } from '../../contracts/wishes';
import type { NotUnderstood } from '../../contracts/not-understood';
import { decode, encodingOf } from '../csv/encoding';
import { ENCODINGS, type Encoding } from '../../base/bytes/encodings';
import { ORIGIN, originFile, originOf, sealOrigin } from '../origin-file';
import { textsToMaster } from '../texts/bring-in';
import { txtDeclaration } from './declare';
import { readTxt } from './read';
import { writeTxt } from './write';

/** Signs that are not written but rule a device: what holds them is no text of a person. */
const CONTROLS = /[\u0000-\u0007\u000e-\u001f\u007f]/g;

function told(text: string, found: { readonly sure: boolean; readonly encoding: Encoding }): NotUnderstood[] {
  const controls = text.match(CONTROLS)?.length ?? 0;
  return [
    ...(found.sure ? [] : [{ kind: `encoding that nothing states, read as ${found.encoding}`, count: 1, shows: true }]),
    ...(controls ? [{ kind: 'sign that is not written', count: controls, shows: true }] : []),
  ];
}

const brokenAsked = (lines: PartWishes['lines']): boolean | undefined =>
  lines === undefined ? undefined : lines === 'parts of paragraphs';

export const txtCodec = {
  declaration: txtDeclaration,
  write: ({ leaves }, options, mark) => [
    { part: '', bytes: writeTxt(leaves[0]!.body as ProseBody, options) },
    originFile(mark, options),
  ],
  seal: sealOrigin,
  read: (files, { options }) => {
    const { bytes } = files[0]!;
    const found = encodingOf(bytes);
    const text = decode(bytes, found.encoding);
    const { origin = null, lines } = originOf(files);
    const wanted = options?.['lines'] ?? lines;
    const blocks = readTxt(text, wanted === undefined ? undefined : wanted === 'broken');
    return {
      leaves: [{ kind: 'prose', key: '', label: '', body: { language: '', blocks, pictures: {} } }],
      mark: origin,
      notUnderstood: told(text, found),
    };
  },
  beside: () => [ORIGIN],
  look: (bytes, _name, { encoding, lines }) => {
    const found = encodingOf(bytes);
    const used = encoding ?? found.encoding;
    const text = decode(bytes, used);
    const [apart, joined] = [readTxt(text, false), readTxt(text, true)];
    // Where both are the same there is nothing to ask.
    const isOpen = joined.length > 1 && apart.length !== joined.length;
    if (found.sure && !isOpen) return null;
    const blocks = readTxt(text, brokenAsked(lines));
    return {
      settings: [
        ...(isOpen
          ? [
              {
                name: 'lines' as const,
                label: 'Each line is',
                value: blocks.length === joined.length ? 'parts of paragraphs' : 'paragraphs',
                choices: [
                  { value: 'paragraphs', label: 'a paragraph' },
                  { value: 'parts of paragraphs', label: 'a part of one, up to an empty line' },
                ],
                sure: false,
              },
            ]
          : []),
        {
          name: 'encoding',
          label: 'Encoding',
          value: used,
          choices: ENCODINGS.map((value) => ({ value, label: value })),
          sure: found.sure,
        },
      ],
      columns: [{ name: 'Words', unit: '', type: 'text' }],
      rows: blocks.slice(0, 8).map((block) => [block.block === 'words' ? block.spans.map(({ text }) => text).join('') : '']),
      remarks: [],
    };
  },
  bringIn: (bytes, name, _means, wishes) => {
    const found = wishes?.encoding ? { encoding: wishes.encoding, sure: true } : encodingOf(bytes);
    const text = decode(bytes, found.encoding);
    const asked = brokenAsked(wishes?.lines);
    const blocks = readTxt(text, asked);
    const isGuess = asked === undefined && blocks.length !== readTxt(text, false).length;
    const notes = isGuess ? [{ kind: 'lines joined to paragraphs, a guess', count: 1, shows: false }] : [];
    return textsToMaster([{ name: '', language: '', blocks }], {}, bytes, name, {
      mark: null,
      notUnderstood: [...told(text, found), ...notes],
    });
  },
} satisfies Codec;
