/** What is shown or done later, each in a file of its own. */
const LATER: readonly (() => Promise<unknown>)[] = [
  () => import('./desk/desk'),
  () => import('./master/master-page'),
  () => import('@inkwell-twin/api'),
  () => import('./house/house-page'),
  () => import('./content/prose/prose-face'),
  () => import('./content/grid/table-face'),
  () => import('./content/mesh/solid-face'),
  () => import('konva/lib/Core'),
  () => import('konva/lib/shapes/Transformer'),
  () => import('@inkwell-twin/core/combine'),
  () => Promise.allSettled([...document.fonts].map((face) => face.load())),
];

/** Fetches what is needed later once the page has time, one after the other: it opens when the server is away by then, too. */
export function fetchAhead(): void {
  const next = (i: number): void => {
    const load = LATER[i];
    if (!load) return;
    requestIdleCallback(() => {
      // What does not come now is asked for again when it is needed.
      void load()
        .catch(() => undefined)
        .then(() => next(i + 1));
    });
  };
  next(0);
}
