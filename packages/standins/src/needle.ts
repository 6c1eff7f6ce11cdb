import { Logbook, type RunReport } from './report';

/** The hoop, mm, its middle at 0, 0; the needles; what the machine can do. */
const HOOP = 100;
const NEEDLES = new Set([1, 2, 3, 4, 5, 6]);
const [A_MINUTE, JUMP_SPEED, ACCELERATION] = [800, 100, 2000];
const [CUT_SECONDS, CHANGE_SECONDS] = [1.5, 8];
/** No stitch of this machine is longer, mm. */
const LONGEST = 12.1;
const MOST = 120_000;

/** A needle machine: sews a list of stitches, line by line, and stops at what it can’t do. */
export function runNeedle(bytes: Uint8Array): RunReport {
  const book = new Logbook('needle', bytes, ACCELERATION, HOOP);
  const lines = new TextDecoder().decode(bytes).split(/\r\n|\r|\n/);
  const threads = new Set<number>();
  let [x, y, needle, sewing, moves, ended] = [0, 0, 0, false, 0, false];
  if (lines[0]?.trim() !== 'inkwell-stitches,1') book.alarm(1, 'this is no list of stitches of version 1');
  for (let i = 1; i < lines.length && !book.isStopped && !ended; i++) {
    const at = i + 1;
    const text = lines[i]!.trim();
    if (!text || text.startsWith('#') || text === 'op,x,y,thread') continue;
    const [op, first, second, third] = text.split(',');
    if (op === 'end') {
      ended = true;
      continue;
    }
    if (op === 'thread') {
      threads.add(Number(first));
      if (!NEEDLES.has(Number(first))) book.alarm(at, `there is no needle ${first}`);
      continue;
    }
    if (op !== 'stitch' && op !== 'jump' && op !== 'cut') {
      book.alarm(at, `“${(op ?? '').slice(0, 20)}” is not known here`);
      continue;
    }
    const wanted = Number(third);
    if (!NEEDLES.has(wanted)) book.alarm(at, `there is no needle ${third}`);
    else if (!threads.has(wanted)) book.alarm(at, `needle ${wanted} has no thread`);
    if (wanted !== needle) {
      if (sewing) book.alarm(at, `the needle is changed while thread ${needle} is not cut`);
      book.pause(CHANGE_SECONDS, `line ${at}: needle ${wanted}`);
      needle = wanted;
    }
    if (++moves > MOST) {
      book.alarm(at, `more than ${MOST} stitches`);
      break;
    }
    if (op === 'cut') {
      if (!sewing) book.alarm(at, 'there is no thread to cut');
      book.pause(CUT_SECONDS, `line ${at}: cut`);
      sewing = false;
      continue;
    }
    const [tx, ty] = [Number(first) / 10, Number(second) / 10];
    if (!Number.isFinite(tx + ty) || !first || !second) {
      book.alarm(at, `${op} to no place`);
      continue;
    }
    if (Math.abs(tx) > HOOP / 2 || Math.abs(ty) > HOOP / 2) book.alarm(at, `out of the hoop: x ${tx}, y ${ty}`);
    const far = Math.hypot(tx - x, ty - y);
    if (op === 'jump') {
      if (sewing) book.alarm(at, 'it jumps with a thread that is not cut');
      book.pause(far / JUMP_SPEED, `line ${at}: jump`);
      book.go({ points: [place(x, y), place(tx, ty)], speed: 0, works: false, tool: needle });
    } else {
      if (far > LONGEST) book.alarm(at, `a stitch of ${far.toFixed(1)} mm: none is longer than ${LONGEST}`);
      book.pause(60 / A_MINUTE, '');
      book.go({ points: [place(x, y), place(tx, ty)], speed: 0, works: true, tool: needle });
      sewing = true;
    }
    [x, y] = [tx, ty];
  }
  if (sewing) book.alarm(lines.length, 'the last thread is not cut');
  if (!ended) book.alarm(lines.length, 'the list has no end');
  return book.finish(HOOP, HOOP);
}

/** A place in the hoop, from its lower left corner, for the drawing. */
const place = (x: number, y: number): readonly [number, number, number] => [x + HOOP / 2, y + HOOP / 2, 0];
