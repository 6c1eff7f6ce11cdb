/** What lies around the edge of a page: what is kept there, and that with room for marks, mm. */
export interface PdfEdges {
  readonly bleed: number;
  readonly around: number;
}
