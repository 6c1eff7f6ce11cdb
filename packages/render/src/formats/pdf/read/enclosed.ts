import { type Enclosed, Failure, looksNative, readPackage, saysOf } from '@inkwell-twin/core';
import type * as Library from '@cantoo/pdf-lib';
import { Unpacking } from './unpacked';
import type { Whole } from './whole';

/** Files that a PDF carries (ISO 32000-1, 7.11.4). */
interface Carried {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** Deeper, or more, is no list of files that anybody would make. */
const [DEEPEST, MOST] = [16, 1000];
/** All of them together; what goes beyond, or is damaged, is none. */
const LARGEST = 512 * 1024 * 1024;
const NOTHING = new Uint8Array();

/** The files in the name tree of a PDF. */
function filesIn({ lib, context, catalog }: Whole): Carried[] {
  const { PDFDict, PDFArray, PDFName, PDFRawStream } = lib;
  const entry = (holder: Library.PDFDict | undefined, key: string): Library.PDFObject | undefined => {
    const held = holder?.get(PDFName.of(key));
    return held && context.lookup(held);
  };
  const dictionary = (value: Library.PDFObject | undefined): Library.PDFDict | undefined =>
    value instanceof PDFDict ? value : undefined;
  const found: Carried[] = [];
  const unpacking = new Unpacking(lib, LARGEST);
  // A tree that leads to itself would be gone through for ever.
  const been = new Set<Library.PDFDict>();
  const visit = (node: Library.PDFDict | undefined, depth: number): void => {
    if (!node || been.has(node) || depth > DEEPEST || found.length > MOST) return;
    been.add(node);
    const [names, kids] = [entry(node, 'Names'), entry(node, 'Kids')];
    if (names instanceof PDFArray)
      for (let i = 1; i < names.size(); i += 2) {
        const specification = dictionary(context.lookup(names.get(i)));
        const held = dictionary(entry(specification, 'EF'));
        const stream = entry(held, 'UF') ?? entry(held, 'F');
        const [name] = ['UF', 'F'].map((key) => entry(specification, key)).filter(isText(lib));
        if (stream instanceof PDFRawStream)
          found.push({ name: name?.decodeText() ?? '', bytes: unpacking.bytes(stream) ?? NOTHING });
      }
    if (kids instanceof PDFArray) for (const kid of kids.asArray()) visit(dictionary(context.lookup(kid)), depth + 1);
  };
  visit(dictionary(entry(dictionary(entry(catalog, 'Names')), 'EmbeddedFiles')), 0);
  return found;
}

const isText =
  ({ PDFString, PDFHexString }: typeof Library) =>
  (value: unknown): value is Library.PDFString | Library.PDFHexString =>
    value instanceof PDFString || value instanceof PDFHexString;

/** The native package among files; null where there is none, or more than one. */
function nativeAmong(files: readonly Carried[]): Uint8Array | null {
  const natives = files.filter(({ bytes }) => looksNative(bytes));
  return natives.length === 1 ? natives[0]!.bytes : null;
}

/** The native package that a PDF carries; null where it carries none, or more than one. */
export const nativeIn = (whole: Whole | null): Uint8Array | null => nativeAmong(whole ? filesIn(whole) : []);

/**
 * The master that travels inside a PDF, and words for all else that it carries.
 * A package that can't be opened is one of those: what it says is not known.
 */
export function enclosedIn(whole: Whole | null): { readonly enclosed: Enclosed | null; readonly others: string[] } {
  const files = whole ? filesIn(whole) : [];
  const native = nativeAmong(files);
  let enclosed: Enclosed | null = null;
  let problem = '';
  if (native)
    try {
      enclosed = { says: saysOf(readPackage(native).master), bytes: native };
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      problem = `master inside that can’t be opened: ${error.message}`;
    }
  const others = files.filter(({ bytes }) => bytes !== native).map(({ name }) => `file inside, “${name.slice(0, 80)}”`);
  return { enclosed, others: problem ? [problem, ...others] : others };
}
