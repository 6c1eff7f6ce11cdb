/** A picture as a drawing shows it. */
export interface DrawnPicture {
  /** Its size and a digest of its pixels: equal words look equal. */
  readonly word: string;
  readonly width: number;
  readonly height: number;
  readonly mediaType: string;
  /** The file that is shown. */
  readonly bytes: Uint8Array;
}
