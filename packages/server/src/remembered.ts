/** Something that is asked for often and changes seldom: found once, and again after it was forgotten or has grown old. */
export class Remembered<T> {
  private found: Promise<T> | undefined;
  private at = 0;

  /** @param oldest milliseconds after which it is found again in any case */
  constructor(
    private readonly find: () => Promise<T>,
    private readonly oldest: number,
  ) {}

  get(): Promise<T> {
    if (this.found && Date.now() - this.at < this.oldest) return this.found;
    this.at = Date.now();
    const found = this.find();
    this.found = found;
    found.catch(() => this.found === found && this.forget());
    return found;
  }

  forget(): void {
    this.found = undefined;
  }
}
