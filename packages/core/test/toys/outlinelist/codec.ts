import { type Codec, type Drawing, DrawingBuilder, outlineAt, plainStyle, sealText } from '../../../src';
import { declaration } from './declare';

export const codec: Codec = {
  declaration,
  write: ({ leaves }, { note, numbered, indent }, mark) => {
    const { layers, layer, count, firstOutline, paths } = leaves[0]!.body as Drawing;
    const lines = [`outlines, ${note}`, mark];
    for (let i = 0; i < count; i++)
      for (let o = firstOutline[i]!; o < firstOutline[i + 1]!; o++) {
        const number = numbered ? `${o + 1} ` : '';
        lines.push(`${' '.repeat(Number(indent))}${number}${JSON.stringify([layers[layer[i]!]!.name, outlineAt(paths, o)])}`);
      }
    return [{ part: '', bytes: new TextEncoder().encode(lines.join('\n')) }];
  },
  seal: sealText,
  read: (files) => {
    const [, mark, ...lines] = new TextDecoder().decode(files[0]!.bytes).split('\n');
    const builder = new DrawingBuilder();
    for (const line of lines) {
      const [name, outline] = JSON.parse(line.replace(/^\s*(\d+ )?/, '')) as [string, ReturnType<typeof outlineAt>];
      builder.paths.add(outline);
      builder.path(builder.layer(name), builder.look(plainStyle));
    }
    return {
      leaves: [{ kind: 'drawing', key: '', label: '', body: builder.finish(null, null) }],
      mark: mark!,
      notUnderstood: [],
    };
  },
};
