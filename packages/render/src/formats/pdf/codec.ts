import { type Codec, type Drawing, onlyFile, pdfDeclaration, sealText } from '@inkwell-twin/core';
import { bringInPdf } from './bring-in';
import { readPdf } from './read';
import { seenPages } from './seen';
import { writePdf } from './write';

export const pdfCodec = {
  declaration: pdfDeclaration,
  write: async ({ title, leaves }, { bleed }, mark, services) => {
    const sheets = leaves.map(({ label, body }) => ({ label, drawing: body as Drawing }));
    return onlyFile(await writePdf(sheets, Number(bleed ?? 0), { mark, title: title ?? '' }, services));
  },
  seal: sealText,
  read: async (files, { options }, services) => {
    const { sheets, mark, notUnderstood } = await readPdf(files[0]!.bytes, Number(options?.['bleed'] ?? 0), services);
    const leaves = sheets.map(({ label, drawing }) => ({ kind: 'drawing' as const, key: '', label, body: drawing }));
    return { leaves, mark, notUnderstood };
  },
  seen: (files) => seenPages(files[0]!.bytes),
  bringIn: bringInPdf,
} satisfies Codec;
