import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Before all journeys: a folder that they share, whichever process runs them. It goes when the last one is over. */
export default function shareFolder(): () => void {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-journeys-'));
  process.env['INKWELL_JOURNEYS'] = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
