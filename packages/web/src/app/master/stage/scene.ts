import type { Span } from '@inkwell-twin/core/web';
import { pathOfOutlines } from './outline-path';

type Context = CanvasRenderingContext2D;

/** Things painted one after the other, some of them laid down as one. */
export interface Scene {
  readonly count: number;
  /** Outer ones first. */
  readonly spans: readonly Span[];
  /** Paints one thing; sets the axes that it needs. */
  readonly paint: (context: Context, at: number) => void;
  /** What a mask is made of, in the same axes. */
  readonly cell: (name: string) => Scene;
}

/** Canvases to paint on apart; kept, because a view is painted again and again. */
const spare: HTMLCanvasElement[] = [];

/** Paints on a canvas of its own with the same axes, and hands that to be laid down. */
function apart(context: Context, paint: (own: Context) => void, lay: (canvas: HTMLCanvasElement) => void): void {
  const canvas = spare.pop() ?? document.createElement('canvas');
  const { width, height } = context.canvas;
  if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
  const own = canvas.getContext('2d')!;
  own.setTransform(1, 0, 0, 1, 0, 0);
  own.globalCompositeOperation = 'source-over';
  own.globalAlpha = 1;
  own.clearRect(0, 0, width, height);
  own.setTransform(context.getTransform());
  paint(own);
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  lay(canvas);
  context.restore();
  spare.push(canvas);
}

/** Lightness into cover: how a luminance mask lets things through (CSS Masking Level 1, 7.10.2). */
function lightToCover(context: Context): void {
  const { width, height } = context.canvas;
  const picture = context.getImageData(0, 0, width, height);
  const { data } = picture;
  for (let i = 0; i < data.length; i += 4) {
    const light = (0.2125 * data[i]! + 0.7154 * data[i + 1]! + 0.0721 * data[i + 2]!) / 255;
    data[i + 3] = Math.round(data[i + 3]! * light);
  }
  context.putImageData(picture, 0, 0);
}

function paintSpan(context: Context, scene: Scene, span: Span, paint: (context: Context) => void): void {
  const { opacity, blend, clip, mask } = span;
  const areas = (clip ?? []).map(({ outlines, rule }) => ({ path: pathOfOutlines(outlines), rule }));
  if (opacity >= 1 && blend === 'normal' && !mask && areas.length === 1) {
    context.save();
    context.clip(areas[0]!.path, areas[0]!.rule);
    paint(context);
    return context.restore();
  }
  const within = (own: Context, cover: (cover: Context) => void) =>
    apart(own, cover, (canvas) => {
      own.globalCompositeOperation = 'destination-in';
      own.drawImage(canvas, 0, 0);
    });
  apart(
    context,
    (own) => {
      paint(own);
      if (clip)
        within(own, (cover) => {
          cover.fillStyle = '#000000';
          for (const { path, rule } of areas) cover.fill(path, rule);
        });
      if (mask)
        within(own, (cover) => {
          paintScene(cover, scene.cell(mask.cell));
          if (mask.kind === 'luminance') lightToCover(cover);
        });
    },
    (canvas) => {
      context.globalAlpha = opacity;
      context.globalCompositeOperation = blend === 'normal' ? 'source-over' : blend;
      context.drawImage(canvas, 0, 0);
    },
  );
}

/**
 * Paints everything, or a part that no span crosses the ends of; the context has the board's axes.
 * @param first number of the first thing @param end number of the one after the last
 */
export function paintScene(context: Context, scene: Scene, first = 0, end = scene.count): void {
  const { spans } = scene;
  let next = first ? spans.findIndex((span) => span.first >= first) : 0;
  if (next < 0) next = spans.length;
  const paint = (own: Context, from: number, to: number) => {
    for (let at = from; at < to;) {
      const span = spans[next];
      if (span?.first === at && span.end <= to) {
        next++;
        paintSpan(own, scene, span, (inner) => paint(inner, span.first, span.end));
        at = span.end;
      } else scene.paint(own, at++);
    }
  };
  paint(context, first, end);
}
