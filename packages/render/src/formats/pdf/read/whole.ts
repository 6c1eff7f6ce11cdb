import type * as Library from '@cantoo/pdf-lib';

/** The parts of a PDF as a second library lists them. */
export interface Whole {
  readonly lib: typeof Library;
  readonly context: Library.PDFContext;
  readonly catalog: Library.PDFDict;
  /** All of it as a file that is not locked. */
  readonly unlocked: () => Promise<Uint8Array>;
}

/** Lists the parts of a PDF; null where it is locked or so damaged that they can't be listed. */
export async function listed(bytes: Uint8Array): Promise<Whole | null> {
  // Loaded when the first file is read.
  const lib = await import('@cantoo/pdf-lib');
  try {
    const document = await lib.PDFDocument.load(bytes, {
      updateMetadata: false,
      // One that is locked against changes alone opens without a word.
      password: '',
      parseSpeed: lib.ParseSpeeds.Fastest,
    });
    // A file without its first part is opened, too.
    const { context, catalog } = document;
    const unlocked = () => document.save({ useObjectStreams: false, updateFieldAppearances: false, addDefaultPage: false });
    return (catalog as unknown) instanceof lib.PDFDict ? { lib, context, catalog, unlocked } : null;
  } catch {
    return null;
  }
}
