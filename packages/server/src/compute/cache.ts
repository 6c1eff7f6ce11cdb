/** A map that forgets what was least used, once what it holds weighs more than it may. */
export class BoundedCache<V> {
  private readonly held = new Map<string, { value: V; bytes: number }>();
  private weight = 0;

  /** @param limit in bytes; what alone weighs more is not kept */
  constructor(private readonly limit: number) {}

  get(key: string): V | undefined {
    const found = this.held.get(key);
    if (!found) return undefined;
    this.held.delete(key);
    this.held.set(key, found);
    return found.value;
  }

  set(key: string, value: V, bytes: number): void {
    this.delete(key);
    if (bytes > this.limit) return;
    this.held.set(key, { value, bytes });
    this.weight += bytes;
    for (const oldest of this.held.keys()) {
      if (this.weight <= this.limit) break;
      this.delete(oldest);
    }
  }

  delete(key: string): void {
    this.weight -= this.held.get(key)?.bytes ?? 0;
    this.held.delete(key);
  }

  get bytes(): number {
    return this.weight;
  }
}
