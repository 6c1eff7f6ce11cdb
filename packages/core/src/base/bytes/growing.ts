type Numbers = Uint8Array | Uint32Array | Int32Array | Float64Array;

/** A typed array that grows as numbers are added. */
export class Growing<T extends Numbers> {
  data: T;
  length = 0;

  constructor(
    private readonly type: new (size: number) => T,
    room = 256,
  ) {
    this.data = new type(room);
  }

  push(value: number): void {
    if (this.length === this.data.length) this.reserve(this.length + 1);
    this.data[this.length++] = value;
  }

  /** Makes sure that `more` numbers fit. */
  reserve(size: number): void {
    if (size <= this.data.length) return;
    const larger = new this.type(Math.max(4 * this.data.length, size));
    larger.set(this.data);
    this.data = larger;
  }

  /** What was added, in an array of just that length. */
  taken(): T {
    return this.data.slice(0, this.length) as T;
  }
}
