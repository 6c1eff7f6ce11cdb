import { Logbook, type RunReport } from './report';

/** Plotter units to the millimetre, the sheet in mm, and what is in the holder. */
const UNITS = 40;
const SHEET = { width: 600, height: 1200 };
const HOLDER = new Set([1, 2, 3]);
const [SPEED_DOWN, SPEED_UP, ACCELERATION] = [300, 600, 4000];
const MOST_MOVES = 500_000;
/** Words that this machine knows and that move nothing. */
const QUIET = new Set(['IN', 'DF', 'VS', 'FS', 'PA', 'PR', 'SP', 'PU', 'PD', 'AS']);

/** A plotter-cutter: runs HP-GL, word by word, and stops at what it can't do. */
export function runCutter(bytes: Uint8Array): RunReport {
  const book = new Logbook('cutter', bytes, ACCELERATION, SHEET.height);
  const text = new TextDecoder('latin1').decode(bytes);
  let [x, y, pen, down, relative, speed, moves] = [0, 0, 0, false, false, SPEED_DOWN, 0];
  const words = /\s*(?:CO\s*"[^"]*";?|([A-Z]{2})([^A-Z;]*);?|;)/gy;
  let at = 0;
  for (; at < text.trimEnd().length && !book.isStopped; at = words.lastIndex) {
    words.lastIndex = at;
    const word = words.exec(text);
    if (!word) {
      book.alarm(at, `“${text.slice(at, at + 12).trim()}” is not understood`);
      break;
    }
    const name = word[1];
    if (!name) continue;
    if (!QUIET.has(name)) {
      book.alarm(at, `${name} is not known here`);
      continue;
    }
    const numbers = (word[2] ?? '')
      .split(/[\s,]+/)
      .filter(Boolean)
      .map(Number);
    if (numbers.some((value) => !Number.isFinite(value))) {
      book.alarm(at, `${name} with what is no number`);
      continue;
    }
    if (name === 'SP') {
      pen = numbers[0] ?? 0;
      if (pen && !HOLDER.has(pen)) book.alarm(at, `there is no tool ${pen}`);
      book.log.push(`byte ${at}: tool ${pen}`);
    } else if (name === 'VS') speed = numbers[0] ? numbers[0] * 10 : SPEED_DOWN;
    else if (name === 'PA') relative = false;
    else if (name === 'PR') relative = true;
    else if (name === 'PU') down = false;
    else if (name === 'PD') down = true;
    if (!['PA', 'PR', 'PU', 'PD'].includes(name)) continue;
    if (numbers.length % 2) book.alarm(at, `${name} with half a place`);
    for (let i = 0; i + 1 < numbers.length; i += 2) {
      const before = [x, y, 0] as const;
      x = (relative ? x : 0) + numbers[i]! / UNITS;
      y = (relative ? y : 0) + numbers[i + 1]! / UNITS;
      if (x < 0 || x > SHEET.width || y < 0 || y > SHEET.height) book.alarm(at, `out of the sheet: x ${x}, y ${y}`);
      if (down && !pen) book.alarm(at, 'it is to cut without a tool');
      book.go({ points: [before, [x, y, 0]], speed: down ? Math.min(speed, SPEED_DOWN) : SPEED_UP, works: down, tool: pen });
      moves++;
    }
    if (moves > MOST_MOVES) {
      book.alarm(at, `more than ${MOST_MOVES} moves`);
      break;
    }
  }
  return book.finish(SHEET.width, SHEET.height);
}
