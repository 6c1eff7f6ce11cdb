import { Failure } from '@inkwell-twin/core';
import { MARK_ENTRY } from '../mark-entry';
import { PIXELS_AT_ONCE } from './images';
import type { PDFDocumentProxy, PDFPageProxy } from 'pdfjs-dist';

/** Pages that are read; a drawing has few. */
const PAGE_LIMIT = 500;

type Library = typeof import('pdfjs-dist');

let loading: Promise<Library> | undefined;
/** The library is large: it is loaded when the first file is read, both halves of it into the same thread. */
const library = (): Promise<Library> =>
  (loading ??= (async () => {
    const worker = (await import('pdfjs-dist/legacy/build/pdf.worker.mjs' as string)) as unknown;
    (globalThis as { pdfjsWorker?: unknown }).pdfjsWorker = worker;
    return (await import('pdfjs-dist/legacy/build/pdf.mjs')) as Library;
  })());

/** Lists of instructions as the library gives them. */
export interface RawInstructions {
  readonly fnArray: readonly number[];
  readonly argsArray: readonly (readonly unknown[] | null)[];
}

/** A page to be read. */
export interface OpenPage {
  readonly label: string;
  /** Its box, points. */
  readonly view: readonly number[];
  /** How it is looked at, degrees clockwise. */
  readonly turn: number;
  /** What its drawing is told by. */
  readonly instructions: RawInstructions;
  /** Something that instructions name: a font, a picture, a pattern. */
  readonly named: (name: string) => Promise<unknown>;
  /** What lies on the page beside its drawing. */
  readonly notes: readonly Note[];
}

/** Something that lies on a page. */
interface Note {
  /** As the format calls it (ISO 32000-1, table 169). */
  readonly kind: string;
  /** Whether a program may draw it that is told nothing of how it looks. */
  readonly drawn: boolean;
  /** Whether it only leads somewhere. */
  readonly leads: boolean;
}
/** What leads somewhere, or opens with another one. */
const LEADING = new Set(['Link', 'Popup']);

export interface OpenPdf {
  readonly pages: AsyncGenerator<OpenPage>;
  readonly info: string;
  readonly xmp: string;
  /** Layers by the words that instructions name them by. */
  readonly layers: ReadonlyMap<string, { readonly name: string; readonly visible: boolean }>;
  readonly nameOf: (operator: number) => string;
  readonly close: () => Promise<void>;
}

const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error)).slice(0, 160);

/** How large a picture may be that is only looked at, pixels. */
const MOST_SEEN = 100_000_000;

/** @throws Failure `pdf-encrypted`, `pdf-damaged` */
async function load(bytes: Uint8Array, maxImageSize: number): Promise<PDFDocumentProxy> {
  const { getDocument, VerbosityLevel } = await library();
  const task = getDocument({
    // The library takes the bytes away.
    data: new Uint8Array(bytes),
    verbosity: VerbosityLevel.ERRORS,
    isEvalSupported: false,
    disableFontFace: true,
    fontExtraProperties: true,
    isOffscreenCanvasSupported: false,
    isImageDecoderSupported: false,
    useSystemFonts: false,
    stopAtErrors: true,
    maxImageSize,
  });
  // A locked file would wait for somebody to type.
  task.onPassword = () => {
    throw new Failure('pdf-encrypted', LOCKED);
  };
  try {
    return await task.promise;
  } catch (error) {
    await task.destroy();
    if (error instanceof Failure || (error instanceof Error && /password/i.test(`${error.name} ${error.message}`)))
      throw new Failure('pdf-encrypted', LOCKED);
    throw new Failure('pdf-damaged', `The PDF can't be read: ${wordsOf(error)} Ask its sender for it again.`);
  }
}

/** Opens a PDF to look at it. @throws Failure `pdf-encrypted`, `pdf-damaged` */
export const openForSight = (bytes: Uint8Array): Promise<PDFDocumentProxy> => load(bytes, MOST_SEEN);

/** The mark in the information dictionary: in an entry of its own, in older copies among the keywords. */
const markIn = (info: { readonly Custom?: Readonly<Record<string, unknown>>; readonly Keywords?: unknown }): string =>
  String(info.Custom?.[MARK_ENTRY] ?? info.Keywords ?? '');

/**
 * Opens a PDF.
 * @throws Failure `pdf-encrypted`, `pdf-damaged`, `pdf-too-large`
 */
export async function openPdf(bytes: Uint8Array): Promise<OpenPdf> {
  const pdf = await load(bytes, PIXELS_AT_ONCE);
  const { OPS } = await library();
  const close = () => pdf.loadingTask.destroy();
  try {
    if (pdf.numPages > PAGE_LIMIT)
      throw new Failure(
        'pdf-too-large',
        `The PDF has ${pdf.numPages} pages; at most ${PAGE_LIMIT} are read. Take out the pages that are meant.`,
      );
    const names = new Map(Object.entries(OPS).map(([name, number]) => [number, name]));
    const { info, metadata } = await pdf.getMetadata();
    const layers = new Map<string, { name: string; visible: boolean }>();
    for (const [id, group] of await pdf.getOptionalContentConfig()) {
      const { name, visible } = group as { name: string | null; visible: boolean };
      layers.set(id, { name: name ?? '', visible });
    }
    return {
      pages: pagesOf(pdf),
      info: markIn(info),
      xmp: metadata ? String((metadata as { getRaw(): unknown }).getRaw()) : '',
      layers,
      nameOf: (operator) => names.get(operator) ?? `instruction ${operator}`,
      close,
    };
  } catch (error) {
    await close();
    throw error instanceof Failure ? error : new Failure('pdf-damaged', `The PDF can't be read: ${wordsOf(error)}`);
  }
}
const LOCKED = 'The PDF is locked with a password. Save it without one, and take that.';

/** Names of pages, by number: what leads to them in the document's outline. */
async function labelsOf(pdf: PDFDocumentProxy): Promise<Map<number, string>> {
  const labels = new Map<number, string>();
  for (const { title, dest } of (await pdf.getOutline()) ?? [])
    try {
      const target = typeof dest === 'string' ? await pdf.getDestination(dest) : dest;
      const index = await pdf.getPageIndex(target?.[0]);
      if (!labels.has(index)) labels.set(index, title);
    } catch {
      // It leads to a page that was taken out, or to none.
    }
  return labels;
}

async function* pagesOf(pdf: PDFDocumentProxy): AsyncGenerator<OpenPage> {
  const labels = await labelsOf(pdf);
  for (let i = 0; i < pdf.numPages; i++) {
    let page: PDFPageProxy;
    let instructions: RawInstructions;
    let notes: Note[];
    try {
      page = await pdf.getPage(i + 1);
      instructions = await page.getOperatorList();
      notes = (await page.getAnnotations()).map(({ subtype, hasAppearance }: { subtype: string; hasAppearance: boolean }) => ({
        kind: subtype,
        leads: LEADING.has(subtype),
        drawn: !hasAppearance && !LEADING.has(subtype),
      }));
    } catch (error) {
      throw new Failure('pdf-damaged', `Page ${i + 1} of the PDF can't be read: ${wordsOf(error)}`);
    }
    const [own, common] = [page.objs, page.commonObjs] as [Objects, Objects];
    yield {
      label: labels.get(i) ?? '',
      view: page.view,
      turn: ((page.rotate % 360) + 360) % 360,
      instructions,
      notes,
      named: (name) => waitFor((then) => (name.startsWith('g_') ? common : own).get(name, then), name, i + 1),
    };
    page.cleanup();
  }
}

/** Longest that something is waited for that a page names, ms: what is damaged may never come. */
const PATIENCE = 60_000;

const waitFor = (ask: (then: (value: unknown) => void) => void, name: string, page: number): Promise<unknown> =>
  new Promise((resolve, reject) => {
    const late = () =>
      reject(new Failure('pdf-damaged', `Page ${page} of the PDF needs something that can't be read (${name}).`));
    const timer = setTimeout(late, PATIENCE);
    ask((value) => {
      clearTimeout(timer);
      resolve(value);
    });
  });

interface Objects {
  get(name: string, then: (value: unknown) => void): void;
}
