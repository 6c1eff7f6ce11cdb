import { type Clause, type KeptFile, dictOf, entry, has, isTrue, listOf, nameOf, ofType, unpackedIn } from './clause';
import { operationsIn } from './contents';

/** The operators that there are (ISO 32000-1, annex A). */
const OPERATORS = new Set(
  `b B b* B* BDC BI BMC BT BX c cm CS cs d d0 d1 Do DP EI EMC ET EX f F f* G g gs h i ID j J K k l m M MP n q Q re RG rg ri s S
   SC sc SCN scn sh T* Tc Td TD Tf Tj TJ TL Tm Tr Ts Tw Tz v w W W* y ' "`.split(/\s+/),
);
const INTENTS = new Set(['RelativeColorimetric', 'AbsoluteColorimetric', 'Perceptual', 'Saturation']);
const BLENDS = new Set(
  `Normal Compatible Multiply Screen Overlay Darken Lighten ColorDodge ColorBurn HardLight SoftLight Difference Exclusion Hue
   Saturation Color Luminosity`.split(/\s+/),
);
/** States that are kept within each other. */
const MOST_KEPT = 28;

/** What the colours are for, by the profile's space of colours; empty where nothing is said. */
function intended(file: KeptFile): Set<string> {
  const spaces = new Set<string>();
  for (const intent of listOf(file, file.catalog, 'OutputIntents')) {
    if (!(intent instanceof file.lib.PDFDict)) continue;
    const profile = entry(file, intent, 'DestOutputProfile');
    if (profile instanceof file.lib.PDFRawStream)
      spaces.add(Buffer.from(unpackedIn(file, profile).subarray(16, 20)).toString('latin1').trim());
  }
  return spaces;
}

/** The spaces of a device's own numbers that are painted in: space → where. */
function deviceSpaces(file: KeptFile): Map<string, string> {
  const found = new Map<string, string>();
  const SPACES: Readonly<Record<string, string>> = { rg: 'RGB', RG: 'RGB', k: 'CMYK', K: 'CMYK', g: 'GRAY', G: 'GRAY' };
  const NAMED: Readonly<Record<string, string>> = { DeviceRGB: 'RGB', DeviceCMYK: 'CMYK', DeviceGray: 'GRAY' };
  const put = (space: string | undefined, where: string): void => {
    if (space && !found.has(space)) found.set(space, where);
  };
  for (const { content, where } of file.drawings)
    for (const { operator, operands } of operationsIn(content)) {
      put(SPACES[operator], where);
      if (operator === 'cs' || operator === 'CS') put(NAMED[operands[0]?.slice(1) ?? ''], where);
    }
  for (const { dict, where } of file.all) {
    for (const key of ['ColorSpace', 'CS']) {
      put(NAMED[nameOf(file, dict, key)], where);
      for (const part of listOf(file, dict, key)) put(NAMED[String(part).slice(1)], where);
    }
  }
  return found;
}

/** What is drawn (ISO 19005-2, 6.2 but fonts). */
export const GRAPHICS: readonly Clause[] = [
  {
    number: '6.2.2',
    words: 'Only operators of the standard draw, and resources are named where they are used',
    *broken(file) {
      for (const { content, where, dict } of file.drawings) {
        let uses = false;
        for (const { operator } of operationsIn(content)) {
          if (!OPERATORS.has(operator)) yield `${where} does “${operator.slice(0, 20)}”`;
          uses ||= ['Do', 'gs', 'Tf', 'sh'].includes(operator);
        }
        if (uses && !dictOf(file, dict, 'Resources')) yield `${where} uses resources and names none`;
      }
    },
  },
  {
    number: '6.1.13 (states)',
    words: `States are kept no more than ${MOST_KEPT} deep`,
    *broken(file) {
      for (const { content, where } of file.drawings) {
        let [depth, deepest] = [0, 0];
        for (const { operator } of operationsIn(content)) {
          if (operator === 'q') deepest = Math.max(deepest, ++depth);
          if (operator === 'Q') depth--;
        }
        if (deepest > MOST_KEPT) yield `${where} keeps ${deepest} states within each other`;
      }
    },
  },
  {
    number: '6.2.3',
    words: 'What the colours are for is said by one profile that is inside',
    *broken(file) {
      const profiles = new Set<unknown>();
      for (const intent of listOf(file, file.catalog, 'OutputIntents')) {
        if (!(intent instanceof file.lib.PDFDict)) continue;
        // term-guard: standard (ISO 19005-2, 6.2.3)
        if (nameOf(file, intent, 'S') !== 'GTS_PDFA1') continue;
        const profile = entry(file, intent, 'DestOutputProfile');
        if (!(profile instanceof file.lib.PDFRawStream)) {
          yield 'What the colours are for has no profile';
          continue;
        }
        profiles.add(profile);
        const bytes = unpackedIn(file, profile);
        const text = (from: number, to: number): string => Buffer.from(bytes.subarray(from, to)).toString('latin1');
        if (bytes.length < 128 || text(36, 40) !== 'acsp') yield 'The profile is none';
        else if (!['prtr', 'mntr'].includes(text(12, 16))) yield 'The profile is of no screen and no press';
        else if (bytes[8]! > 4) yield `The profile is of version ${bytes[8]}`;
        else {
          const parts = { 'RGB ': 3, CMYK: 4, GRAY: 1 }[text(16, 20)];
          if (!parts) yield `The profile is of ${text(16, 20)}`;
          else if (String(entry(file, profile.dict, 'N')) !== String(parts)) yield 'The profile has other parts than it says';
        }
      }
      if (profiles.size > 1) yield 'There is more than one profile';
    },
  },
  {
    number: '6.2.4.3',
    words: 'Numbers of a device’s own colours have a profile that says what they mean',
    *broken(file) {
      const spaces = intended(file);
      for (const [space, where] of deviceSpaces(file))
        if (space === 'GRAY' ? !spaces.size : !spaces.has(space)) yield `${where} paints in ${space} that no profile explains`;
    },
  },
  {
    number: '6.2.5',
    words: 'States of graphics change no curves of a device, and no screens of dots',
    *broken(file) {
      for (const { dict, where } of ofType(file, 'ExtGState')) {
        if (has(file, dict, 'TR')) yield `${where} has “TR”`;
        if (has(file, dict, 'TR2') && nameOf(file, dict, 'TR2') !== 'Default') yield `${where} has “TR2”`;
        if (has(file, dict, 'HTP')) yield `${where} has “HTP”`;
        const intent = nameOf(file, dict, 'RI');
        if (intent && !INTENTS.has(intent)) yield `${where} means colours as “${intent}”`;
      }
    },
  },
  {
    number: '6.2.8',
    words: 'Pictures are neither smoothed by whoever shows them, nor have another in their place',
    *broken(file) {
      for (const { dict, where } of file.all.filter(({ dict }) => nameOf(file, dict, 'Subtype') === 'Image')) {
        if (isTrue(file, dict, 'Interpolate')) yield `${where} asks to be smoothed`;
        if (has(file, dict, 'Alternates')) yield `${where} has others in its place`;
        if (has(file, dict, 'OPI')) yield `${where} stands for a file outside`;
        const intent = nameOf(file, dict, 'Intent');
        if (intent && !INTENTS.has(intent)) yield `${where} means colours as “${intent}”`;
      }
    },
  },
  {
    number: '6.2.9',
    words: 'Drawings within pages are in the file, and no program of a printer',
    *broken(file) {
      for (const { dict, where } of file.all.filter(({ stream }) => stream)) {
        const kind = nameOf(file, dict, 'Subtype');
        if (kind === 'PS' || nameOf(file, dict, 'Subtype2') === 'PS') yield `${where} is a program of a printer`;
        if (kind === 'Form') for (const key of ['OPI', 'Ref', 'PS']) if (has(file, dict, key)) yield `${where} has “${key}”`;
      }
    },
  },
  {
    number: '6.2.10',
    words: 'Blends are those of the standard, and what is mixed is mixed in colours that are explained',
    *broken(file) {
      for (const { dict, where } of ofType(file, 'ExtGState'))
        for (const blend of [nameOf(file, dict, 'BM'), ...listOf(file, dict, 'BM').map((one) => String(one).slice(1))])
          if (blend && !BLENDS.has(blend)) yield `${where} blends by “${blend}”`;
      const mixes = file.all.some(({ dict }) => nameOf(file, dict, 'S') === 'Transparency' || has(file, dict, 'SMask'));
      if (!mixes || intended(file).size) return;
      for (const { dict, where } of ofType(file, 'Page'))
        if (!has(file, dictOf(file, dict, 'Group') ?? dict, 'CS')) yield `${where} mixes colours that nothing explains`;
    },
  },
];
