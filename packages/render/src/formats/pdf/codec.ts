import {
  type Codec,
  type Drawing,
  type PdfVersion,
  Tally,
  descriptionIn,
  isDescribed,
  onlyFile,
  pdfDeclaration,
  pdfEdges,
  sealText,
} from '@inkwell-twin/core';
import { bringInPdf } from './bring-in';
import { GRADES } from './grades';
import { brokenClauses } from './keeping';
import { pdfLock } from './lock';
import { nativeInPdf, readPdf } from './read';
import { seenPages } from './seen';
import { writePdf } from './write';

export const pdfCodec = {
  declaration: pdfDeclaration,
  write: async ({ title, leaves, enclosed, described }, options, mark, services) => {
    const sheets = leaves.map(({ label, body }) => ({ label, drawing: body as Drawing }));
    return onlyFile(
      await writePdf(
        sheets,
        pdfEdges(options),
        (options['version'] ?? '1.7') as PdfVersion,
        { mark, title: described?.title ?? title ?? '', enclosed, described },
        services,
      ),
    );
  },
  seal: sealText,
  read: async (files, { options }, services) => {
    const { sheets, mark, notUnderstood, enclosed, xmp } = await readPdf(files[0]!.bytes, pdfEdges(options ?? {}), services);
    const part = GRADES[(options?.['version'] ?? '1.7') as PdfVersion]?.keeping?.part;
    const unfit = new Tally();
    // What was made for keeping is to stay fit for it.
    for (const { clause, words } of part ? await brokenClauses(files[0]!.bytes, part) : [])
      unfit.addBeyondSight(`unfit for keeping (ISO 19005-${part}, ${clause}): ${words}`);
    const described = isDescribed(options, mark) ? descriptionIn(xmp) : undefined;
    const leaves = sheets.map(({ label, drawing }) => ({ kind: 'drawing' as const, key: '', label, body: drawing }));
    return {
      leaves,
      mark,
      notUnderstood: [...notUnderstood, ...unfit.list()],
      ...(enclosed ? { enclosed } : {}),
      ...(described ? { described } : {}),
    };
  },
  seen: (files) => seenPages(files[0]!.bytes),
  bringIn: bringInPdf,
  nativeInside: nativeInPdf,
  lock: pdfLock,
} satisfies Codec;
