import type { Services } from '../../contracts/services';
import { digest } from '../../base/bytes/hasher';
import { Failure } from '../../base/failure/failure';
import { drawnPicture } from '../../contracts/pictures';
import type { DrawnPicture } from '../../contracts/drawn-picture';

/** Pictures of a text that are read at once: each is unpacked to be compared. */
const MOST_PICTURES = 2000;

/** The pictures that a copy of a text shows, by the names that it has for them. */
export class PicturesIn {
  private readonly byName = new Map<string, DrawnPicture>();

  wordOf(name: string): string | null {
    return this.byName.get(name)?.word ?? null;
  }
  of(name: string): DrawnPicture | null {
    return this.byName.get(name) ?? null;
  }
  get all(): Record<string, DrawnPicture> {
    return Object.fromEntries([...this.byName.values()].map((picture) => [picture.word, picture]));
  }

  /** Takes in what is asked for, as far as it is there and is a picture. */
  static async read(
    names: Iterable<string>,
    bytesOf: (name: string) => Uint8Array | null | undefined,
    { pictures }: Partial<Services>,
  ): Promise<PicturesIn> {
    const found = new PicturesIn();
    if (!pictures) return found;
    const seen = new Map<string, DrawnPicture | null>();
    for (const name of new Set(names)) {
      const bytes = bytesOf(name);
      if (!bytes?.length || found.byName.size >= MOST_PICTURES) continue;
      const sha = digest(bytes);
      let drawn = seen.get(sha);
      if (drawn === undefined) {
        try {
          drawn = await drawnPicture(pictures, bytes);
        } catch (error) {
          if (!(error instanceof Failure)) throw error;
          drawn = null;
        }
        seen.set(sha, drawn);
      }
      if (drawn) found.byName.set(name, drawn);
    }
    return found;
  }
}

const FORMATS: Readonly<Record<string, string>> = { 'image/png': 'png', 'image/jpeg': 'jpg' };
export const endingOf = (mediaType: string): string => FORMATS[mediaType] ?? 'bin';

/** The bytes of a picture that stands in its address (RFC 2397); null where there are none. */
export function bytesOfData(address: string): Uint8Array | null {
  const found = /^data:image\/[a-z0-9.+-]+;base64,([A-Za-z0-9+/=\s]+)$/i.exec(address);
  if (!found) return null;
  try {
    return Uint8Array.from(atob(found[1]!.replace(/\s+/g, '')), (char) => char.charCodeAt(0));
  } catch {
    return null;
  }
}
