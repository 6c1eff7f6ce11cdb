import { Logbook, type RunReport } from './report';

/** What is bolted to this machine: no knowledge of any other program goes into it. Lengths in mm, feeds in mm/min. */
const BED = { width: 900, height: 600, down: 80, up: 80 };
/** The sheet that lies on it, and the board under that which may be cut into. */
const STOCK = { thickness: 9, under: 0.5 };
const TURRET = new Map([
  [1, { width: 6, flute: 22, drill: false, point: false }],
  [2, { width: 3, flute: 12, drill: false, point: false }],
  [3, { width: 3, flute: 30, drill: true, point: false }],
  [4, { width: 0.2, flute: 4, drill: false, point: true }],
]);
const [FASTEST_FEED, RAPID, MOST_TURNS] = [6000, 6000, 24_000];
const [MOST_MOVES, MOST_BYTES, LONGEST_LINE] = [200_000, 8_000_000, 255];
/** Clamps stand at the back edge: from x to x, from y on, so high. */
const CLAMPS = [
  { from: 180, to: 240 },
  { from: 660, to: 720 },
];
const [CLAMP_FROM_Y, CLAMP_HEIGHT] = [585, 20];
const ACCELERATION = 500;
const CHANGE_SECONDS = 12;

const SETTING = new Set([17, 40, 54, 94]);

interface State {
  x: number;
  y: number;
  z: number;
  inch: boolean;
  relative: boolean;
  motion: number;
  feed: number;
  turns: number;
  spinning: boolean;
  tool: number;
  next: number;
  over: boolean;
}

/** A router with four tools: runs a program of ISO 6983-1 words, line by line, and stops at what it can't do. */
export function runRouter(bytes: Uint8Array): RunReport {
  const book = new Logbook('router', bytes, ACCELERATION, BED.height);
  if (bytes.length > MOST_BYTES) book.alarm(0, `the file has ${bytes.length} bytes, and there is room for ${MOST_BYTES}`);
  const text = new TextDecoder('latin1').decode(bytes);
  const state: State = {
    x: 0,
    y: 0,
    z: BED.up,
    inch: false,
    relative: false,
    motion: -1,
    feed: 0,
    turns: 0,
    spinning: false,
    tool: 0,
    next: 0,
    over: false,
  };
  let moves = 0;
  const lines = text.split(/\r\n|\n|\r/);
  for (let i = 0; i < lines.length && !book.isStopped; i++) {
    const at = i + 1;
    if (lines[i]!.length > LONGEST_LINE) {
      book.alarm(at, `a line of ${lines[i]!.length} characters`);
      continue;
    }
    const line = lines[i]!.replace(/\([^)]*\)/g, ' ').trim();
    if (!line || line === '%') continue;
    if (state.over) {
      book.alarm(at, 'there is more behind the end of the program');
      break;
    }
    moves += block(line, at, state, book);
    if (moves > MOST_MOVES) {
      book.alarm(at, `more than ${MOST_MOVES} moves`);
      break;
    }
  }
  if (!state.over) book.alarm(lines.length, 'the program has no end (M2 or M30)');
  return book.finish(BED.width, BED.height);
}

const WORD = /^\s*([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))/;

/** Does one line. @returns how many moves that is */
function block(line: string, at: number, state: State, book: Logbook): number {
  const axes: Record<string, number> = {};
  let changes = false;
  for (let rest = line; rest.trim();) {
    const word = WORD.exec(rest);
    if (!word) {
      book.alarm(at, `“${rest.trim().slice(0, 20)}” is not understood`);
      return 0;
    }
    rest = rest.slice(word[0].length);
    const [letter, value] = [word[1]!, Number(word[2])];
    switch (letter) {
      case 'N':
        break;
      case 'G':
        setting(value, at, state, book);
        break;
      case 'M':
        if (value === 6) changes = true;
        else auxiliary(value, at, state, book);
        break;
      case 'T':
        state.next = value;
        break;
      case 'S':
        if (value > MOST_TURNS) book.alarm(at, `${value} turns a minute, and the spindle can turn ${MOST_TURNS}`);
        state.turns = value;
        break;
      case 'F':
        state.feed = value * (state.inch ? 25.4 : 1);
        if (!(state.feed > 0)) book.alarm(at, 'a feed of nothing');
        if (state.feed > FASTEST_FEED + 0.5) book.alarm(at, `a feed of ${state.feed}, and the most is ${FASTEST_FEED}`);
        break;
      default:
        if ('XYZIJ'.includes(letter)) axes[letter] = value * (state.inch ? 25.4 : 1);
        else book.alarm(at, `the word ${letter} is not known here`);
    }
  }
  if (changes) change(at, state, book);
  return Object.keys(axes).length ? move(axes, at, state, book) : 0;
}

function setting(value: number, at: number, state: State, book: Logbook): void {
  if (value >= 0 && value <= 3) state.motion = value;
  else if (value === 20) state.inch = true;
  else if (value === 21) state.inch = false;
  else if (value === 90) state.relative = false;
  else if (value === 91) state.relative = true;
  else if (!SETTING.has(value)) book.alarm(at, `G${value} is not known here`);
}

function auxiliary(value: number, at: number, state: State, book: Logbook): void {
  if (value === 3) {
    if (!(state.turns > 0)) book.alarm(at, 'the spindle is to turn, and nobody says how fast');
    state.spinning = true;
  } else if (value === 5) state.spinning = false;
  else if (value === 2 || value === 30) state.over = true;
  else book.alarm(at, `M${value} is not known here`);
}

function change(at: number, state: State, book: Logbook): void {
  if (state.spinning) book.alarm(at, 'the tool is changed while the spindle turns');
  if (!TURRET.has(state.next)) book.alarm(at, `there is no tool ${state.next}`);
  if (state.z < STOCK.thickness && state.z < 0) book.alarm(at, 'the tool is changed in the stock');
  state.tool = state.next;
  book.pause(CHANGE_SECONDS, `line ${at}: tool ${state.tool}`);
}

function move(axes: Record<string, number>, at: number, state: State, book: Logbook): number {
  if (state.motion < 0) {
    book.alarm(at, 'a place, and nobody says how to go there');
    return 0;
  }
  const target = (letter: string, now: number): number => {
    const value = axes[letter];
    return value === undefined ? now : state.relative ? now + value : value;
  };
  const from = [state.x, state.y, state.z] as const;
  const to = [target('X', from[0]), target('Y', from[1]), target('Z', from[2])] as const;
  const points: (readonly [number, number, number])[] = [from];
  if (state.motion < 2) points.push(to);
  else for (const point of arc(from, to, axes, state.motion === 2, at, book)) points.push(point);
  for (const point of points.slice(1)) {
    const trouble = troubleAt(point, from, state);
    if (trouble) {
      book.alarm(at, trouble);
      break;
    }
  }
  const works = state.motion > 0;
  if (works && !(state.feed > 0)) book.alarm(at, 'it is to work, and nobody says how fast');
  const speed = (works ? state.feed || 1 : RAPID) / 60;
  book.go({ points, speed, works: works && to[2] <= 0.0005, tool: state.tool });
  [state.x, state.y, state.z] = to;
  return 1;
}

/** What is wrong with being at a place on the way there. */
function troubleAt([x, y, z]: readonly [number, number, number], from: readonly number[], state: State): string | null {
  const slack = 0.002;
  const tool = TURRET.get(state.tool);
  if (x < -slack || x > BED.width + slack || y < -slack || y > BED.height + slack)
    return `out of the bed: x ${x.toFixed(3)}, y ${y.toFixed(3)}`;
  if (z > BED.up + slack) return `higher than the machine: z ${z.toFixed(3)}`;
  if (z < -(STOCK.thickness + STOCK.under) - slack) return `into the machine’s own bed: z ${z.toFixed(3)}`;
  const half = (tool?.width ?? 0) / 2;
  const inClamp = CLAMPS.some((clamp) => x + half > clamp.from && x - half < clamp.to) && y + half > CLAMP_FROM_Y;
  if (inClamp && z < CLAMP_HEIGHT - STOCK.thickness)
    return `into a clamp: x ${x.toFixed(1)}, y ${y.toFixed(1)}, z ${z.toFixed(1)}`;
  if (z >= -slack) return null;
  // From here on the tool is in the stock.
  if (!tool) return 'into the stock without a tool';
  if (state.motion === 0 && (Math.hypot(x - from[0]!, y - from[1]!) > slack || z < from[2]! - slack))
    return `through the stock as fast as through the air: z ${z.toFixed(3)}`;
  if (!state.spinning) return 'into the stock, and the spindle stands still';
  if (-z > tool.flute + slack) return `${(-z).toFixed(3)} mm deep with a tool of ${tool.flute} mm`;
  if (tool.drill && Math.hypot(x - from[0]!, y - from[1]!) > slack) return 'sideways with a drill';
  return null;
}

/** An arc in short lines; I and J are from where it begins. */
function* arc(
  from: readonly [number, number, number],
  to: readonly [number, number, number],
  axes: Record<string, number>,
  clockwise: boolean,
  at: number,
  book: Logbook,
): Generator<readonly [number, number, number]> {
  if (axes['I'] === undefined && axes['J'] === undefined) {
    book.alarm(at, 'an arc without a centre');
    return;
  }
  const [cx, cy] = [from[0] + (axes['I'] ?? 0), from[1] + (axes['J'] ?? 0)];
  const [r, s] = [Math.hypot(from[0] - cx, from[1] - cy), Math.hypot(to[0] - cx, to[1] - cy)];
  if (Math.abs(r - s) > 0.005)
    book.alarm(at, `an arc that does not close: radius ${r.toFixed(4)} where it begins, ${s.toFixed(4)} at its end`);
  const begin = Math.atan2(from[1] - cy, from[0] - cx);
  let sweep = Math.atan2(to[1] - cy, to[0] - cx) - begin;
  if (clockwise && sweep >= -1e-9) sweep -= 2 * Math.PI;
  if (!clockwise && sweep <= 1e-9) sweep += 2 * Math.PI;
  const count = Math.max(2, Math.ceil(Math.abs(sweep) / 0.1));
  for (let i = 1; i < count; i++) {
    const angle = begin + (sweep * i) / count;
    yield [cx + r * Math.cos(angle), cy + r * Math.sin(angle), from[2] + ((to[2] - from[2]) * i) / count];
  }
  yield to;
}
