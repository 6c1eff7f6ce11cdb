import type { Age } from './ages';
import { type Entity, isSet, number, place, text } from './entities';
import { type Group, Refused } from './groups';
import type { Place } from './shapes';

/** A layer as its table says it. */
interface Layer {
  readonly colour: string | number;
  /** Whether what lies on it is shown. */
  readonly shown: boolean;
  /** Whether uses of symbols that lie on it are opened at all. */
  readonly frozen: boolean;
}
interface Block {
  readonly base: Place;
  readonly entities: Entity[];
}

const PAGES: Readonly<Record<string, string>> = { '932': 'shift_jis', '936': 'gbk', '949': 'euc-kr', '950': 'big5' };
/** The version from which on objects have handles and classes, and that from which on letters are UTF-8. */
const [CLASSES, UNICODE] = [1012, 1021];
const FROZEN = 1;

/** The decoder for a code page; letters of pages that this machine does not know are read as those of the usual one. */
function decoderOf(page: string | undefined): TextDecoder {
  try {
    return new TextDecoder(page ? (PAGES[page] ?? `windows-${page}`) : 'windows-1252');
  } catch {
    return new TextDecoder('windows-1252');
  }
}

/** What a file says before it draws: its version, its letters, its layers, line types and blocks. */
export class Tables {
  readonly layers = new Map<string, Layer>();
  readonly types = new Set(['BYLAYER', 'BYBLOCK', 'CONTINUOUS']);
  readonly blocks = new Map<string, Block>();
  /** Whether its objects have handles and classes, and the reader knows of them. */
  readonly classes: boolean;
  private readonly decoder: TextDecoder;

  /** @param drop told what the reader passes over. @throws Refused */
  constructor(
    private readonly age: Age,
    sections: ReadonlyMap<string, { readonly head: readonly Group[]; readonly entities: readonly Entity[] }>,
    private readonly drop: (what: string) => void,
  ) {
    const head = sections.get('HEADER')?.head ?? [];
    const value = (name: string): string | undefined => {
      const i = head.findIndex((group) => group.code === 9 && group.value.trim() === name);
      return i < 0 ? undefined : head[i + 1]?.value.trim();
    };
    const version = Number(/^AC(\d+)$/.exec(value('$ACADVER') ?? 'AC1009')?.[1] ?? 0); // term-guard: standard (DXF reference, HEADER section)
    if (version > age.number) throw new Refused(0, `the file is of version ${version}; known are those up to ${age.number}`);
    this.classes = age.classes && version >= CLASSES;
    const page = /^ansi_(\d+)$/i.exec(value('$DWGCODEPAGE') ?? '')?.[1];
    this.decoder = age.unicode && version >= UNICODE ? new TextDecoder() : decoderOf(page);
    for (const entity of sections.get('TABLES')?.entities ?? []) this.entry(entity);
    this.blocksOf(sections.get('BLOCKS')?.entities ?? []);
  }

  /** Letters of a value, those that stand by their number included. */
  words(value: string): string {
    // What each entity names, its layer above all, is mostly this.
    if (/^[\w -]*$/.test(value)) return value;
    const bytes = Uint8Array.from(value, (letter) => letter.charCodeAt(0));
    return this.decoder.decode(bytes).replace(/\\U\+([0-9A-F]{4})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
  }

  /** A name as an entity states it. */
  name(entity: Entity, code: number): string {
    return this.words(text(entity, code) ?? '');
  }

  /** The colour that an entity states; undefined where it is that of its layer. @throws Refused */
  colourIn(entity: Entity): string | number | undefined {
    const exact = number(entity, 420);
    if (exact !== undefined && this.age.trueColour) return `#${(exact & 0xffffff).toString(16).padStart(6, '0')}`;
    if (exact !== undefined) this.drop('colours stated as red, green and blue');
    const index = number(entity, 62);
    return index === undefined || index === 256 ? undefined : Math.abs(index);
  }

  private entry(entity: Entity): void {
    if (
      this.classes &&
      !['TABLE', 'ENDTAB'].includes(entity.type) &&
      !entity.groups.some(({ code }) => code === 5 || code === 105)
    )
      throw new Refused(entity.at, `${entity.type} has no handle`);
    const name = this.name(entity, 2);
    if (entity.type === 'LTYPE') this.types.add(name.toUpperCase());
    if (entity.type !== 'LAYER') return;
    if (!this.types.has((text(entity, 6) ?? 'CONTINUOUS').toUpperCase()))
      throw new Refused(entity.at, `layer ${name}: its line type is in no table`);
    const frozen = isSet(entity, FROZEN);
    this.layers.set(name.toUpperCase(), {
      colour: this.colourIn(entity) ?? 7,
      shown: !frozen && (number(entity, 62) ?? 7) >= 0,
      frozen,
    });
  }

  private blocksOf(entities: readonly Entity[]): void {
    let open: Entity[] | null = null;
    for (const entity of entities) {
      if (entity.type === 'BLOCK')
        this.blocks.set(this.name(entity, 2).toUpperCase(), { base: place(entity, 10), entities: (open = []) });
      else if (entity.type === 'ENDBLK') open = null;
      else if (open) open.push(entity);
      else throw new Refused(entity.at, `${entity.type} stands in no block`);
    }
  }
}
