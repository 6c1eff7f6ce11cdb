import type { PathStore } from '@inkwell-twin/core';

/** Puts a packed path into a store. */
export function unpack(data: Float32Array, into: PathStore): void {
  let [x, y] = [0, 0];
  let begun = false;
  const end = (isClosed: boolean) => {
    if (begun && into.begun) into.end(isClosed);
    else if (begun) into.drop();
    begun = false;
  };
  let [startX, startY] = [0, 0];
  const begin = () => {
    if (!begun) into.move(x, y);
    begun = true;
  };
  for (let i = 0; i < data.length;) {
    const verb = data[i++];
    if (verb === 0) {
      end(false);
      [x, y] = [data[i++]!, data[i++]!];
      [startX, startY] = [x, y];
      begin();
    } else if (verb === 1) {
      begin();
      [x, y] = [data[i++]!, data[i++]!];
      into.line(x, y);
    } else if (verb === 2) {
      begin();
      [x, y] = [data[i + 4]!, data[i + 5]!];
      into.cubic(data[i]!, data[i + 1]!, data[i + 2]!, data[i + 3]!, x, y);
      i += 6;
    } else if (verb === 3) {
      begin();
      const [hx, hy, toX, toY] = [data[i]!, data[i + 1]!, data[i + 2]!, data[i + 3]!];
      const third = (from: number, to: number) => from + (2 / 3) * (to - from);
      into.cubic(third(x, hx), third(y, hy), third(toX, hx), third(toY, hy), toX, toY);
      [x, y] = [toX, toY];
      i += 4;
    } else {
      // What follows a closed outline without a start of its own begins where that one did.
      end(true);
      [x, y] = [startX, startY];
    }
  }
  end(false);
}
