import { type Piece, pieceOf } from './pieces';

/** The points of pieces one after the other, what they share once. */
function pointsAlong(
  steps: readonly { readonly piece: number; readonly reversed: boolean }[],
  pieces: readonly Piece[],
): number[] {
  const points: number[] = [];
  for (const step of steps) {
    const own = pieces[step.piece]!.points;
    for (let k = points.length ? 1 : 0; k < own.length / 2; k++) {
      const at = step.reversed ? own.length - 2 - 2 * k : 2 * k;
      points.push(own[at]!, own[at + 1]!);
    }
  }
  return points;
}

/**
 * Joins open pieces of the same look end to end where exactly two ends meet, so that an outline that was split comes whole again.
 * @param tolerance how far apart two ends may be, mm
 */
export function chainPieces(pieces: readonly Piece[], tolerance: number): Piece[] {
  const done: Piece[] = pieces.filter((piece) => piece.closed || piece.points.length < 4);
  const open = pieces.filter((piece) => !piece.closed && piece.points.length >= 4);
  const ends = new Map<string, { piece: number; last: boolean }[]>();
  const cell = Math.max(tolerance, 1e-6);
  const endPoint = (piece: number, last: boolean): [number, number] => {
    const { points } = open[piece]!;
    const at = last ? points.length - 2 : 0;
    return [points[at]!, points[at + 1]!];
  };
  const cellsAround = (piece: number, last: boolean): string[] => {
    const [x, y] = endPoint(piece, last).map((value) => Math.floor(value / cell)) as [number, number];
    const keys: string[] = [];
    for (let i = -1; i <= 1; i++) for (let j = -1; j <= 1; j++) keys.push(`${open[piece]!.look}|${x + i}|${y + j}`);
    return keys;
  };
  open.forEach((piece, i) => {
    for (const last of [false, true]) {
      const [x, y] = endPoint(i, last).map((value) => Math.floor(value / cell));
      const key = `${piece.look}|${x}|${y}`;
      const list = ends.get(key);
      if (list) list.push({ piece: i, last });
      else ends.set(key, [{ piece: i, last }]);
    }
  });
  const partner = (piece: number, last: boolean): { piece: number; last: boolean } | undefined => {
    const [x, y] = endPoint(piece, last);
    const meeting = cellsAround(piece, last).flatMap((key) =>
      (ends.get(key) ?? []).filter((end) => {
        const [u, v] = endPoint(end.piece, end.last);
        return (end.piece !== piece || end.last !== last) && Math.hypot(x - u, y - v) <= tolerance;
      }),
    );
    return meeting.length === 1 ? meeting[0] : undefined;
  };

  const used = new Uint8Array(open.length);
  const follow = (start: number, last: boolean): { piece: number; reversed: boolean }[] => {
    const path: { piece: number; reversed: boolean }[] = [];
    let at = partner(start, last);
    while (at && !used[at.piece]) {
      used[at.piece] = 1;
      // We come in at one end and go on from the other.
      path.push({ piece: at.piece, reversed: at.last });
      at = partner(at.piece, !at.last);
    }
    return path;
  };
  open.forEach((piece, i) => {
    if (used[i]) return;
    used[i] = 1;
    const after = follow(i, true);
    const before = follow(i, false);
    if (!after.length && !before.length) return void done.push(piece);
    const steps = [
      ...before.reverse().map(({ piece, reversed }) => ({ piece, reversed: !reversed })),
      { piece: i, reversed: false },
      ...after,
    ];
    const points = pointsAlong(steps, open);
    const n = points.length;
    if (n > 4 && Math.hypot(points[0]! - points[n - 2]!, points[1]! - points[n - 1]!) <= tolerance) {
      // What comes round begins with its first piece: where something too short to be told apart stood, it was met backwards.
      const round = before.length ? pointsAlong([...steps.slice(before.length), ...steps.slice(0, before.length)], open) : points;
      round[n - 2] = round[0]!;
      round[n - 1] = round[1]!;
      done.push(pieceOf(round, piece));
    } else done.push(pieceOf(points, piece));
  });
  return done;
}
