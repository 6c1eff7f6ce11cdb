/** Something in a file that a reader did not understand: named and counted, never dropped in silence. */
export interface NotUnderstood {
  readonly kind: string;
  readonly count: number;
  /** Whether it changes what one sees, so that a file with it says something that was not read. */
  readonly shows: boolean;
  /** Whether no picture of the file can tell: how it is printed, what it does when it is opened, what it carries beside. */
  readonly beyondSight?: true;
}
