import type { Matrix } from '@inkwell-twin/core/web';
import type { Stage as KonvaStage } from 'konva/lib/Stage';
import type { Layer as KonvaLayer } from 'konva/lib/Layer';
import type { Rect as KonvaRect } from 'konva/lib/shapes/Rect';
import type { Circle as KonvaCircle } from 'konva/lib/shapes/Circle';
import type { Transformer as KonvaTransformer } from 'konva/lib/shapes/Transformer';
import { themeColour } from './canvas-surface';

/** A frame on the stage, in pixels. */
interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Something that is taken hold of on the stage, in pixels: a point of a line, or a handle of a curve. */
export interface Hold {
  readonly x: number;
  readonly y: number;
  readonly small: boolean;
  readonly chosen: boolean;
}

interface HandleEvents {
  /** While a frame is pulled: what maps it from where it was, in pixels. */
  readonly pulled: (matrix: Matrix) => void;
  readonly let: (matrix: Matrix, turned: boolean) => void;
  /** Where a corner that is pulled should lie. */
  readonly snap: (x: number, y: number) => { x: number; y: number };
  readonly held: (at: number, x: number, y: number) => { x: number; y: number };
  readonly put: (at: number) => void;
  readonly pressed: (at: number) => void;
}

const ALL = [
  ...['top-left', 'top-center', 'top-right', 'middle-left'],
  ...['middle-right', 'bottom-left', 'bottom-center', 'bottom-right'],
];
/** Pixels between a frame and its handles; and from what is small, so that they cover none of it. */
const [CLEAR, CLEAR_OF_SMALL] = [5, 13];
/** Below this many pixels a side is small. */
const SMALL = 44;
/** Turns are in steps of this many degrees while Shift is held. */
const TURN_STEPS = 15;

/** The handles of what is selected, over the painted board: a library's, in our own look. Loaded when something is first taken hold of. */
export class Handles {
  private parts:
    | {
        stage: KonvaStage;
        layer: KonvaLayer;
        proxy: KonvaRect;
        frame: KonvaTransformer;
        circle: new (config: object) => KonvaCircle;
      }
    | undefined;
  private holds: KonvaCircle[] = [];
  private from: Frame | null = null;
  private pulling = false;

  constructor(
    private readonly host: HTMLDivElement,
    private readonly events: HandleEvents,
  ) {}

  async load(): Promise<void> {
    const [{ default: Konva }, { Rect }, { Circle }, { Transformer }] = await Promise.all([
      import('konva/lib/Core'),
      import('konva/lib/shapes/Rect'),
      import('konva/lib/shapes/Circle'),
      import('konva/lib/shapes/Transformer'),
    ]);
    if (this.parts) return;
    const stage = new Konva.Stage({ container: this.host, width: this.host.clientWidth, height: this.host.clientHeight });
    const layer = new Konva.Layer();
    const proxy = new Rect({ listening: false, fill: 'transparent' });
    const frame: KonvaTransformer = new Transformer({
      nodes: [],
      ignoreStroke: true,
      flipEnabled: false,
      borderEnabled: false,
      rotateAnchorOffset: 22,
      padding: CLEAR,
      rotateLineVisible: false,
      anchorSize: 10,
      anchorStyleFunc: (anchor) => {
        const turns = anchor.hasName('rotater');
        anchor.cornerRadius(turns ? 5 : 0);
        anchor.rotation(turns ? 0 : 45);
        anchor.offset({ x: 5, y: 5 });
        anchor.fill(themeColour('--sheet'));
        anchor.stroke(themeColour('--action'));
        anchor.strokeWidth(1.5);
      },
      anchorDragBoundFunc: (_old, next): { x: number; y: number } => {
        const anchor = frame.getActiveAnchor();
        if (!this.from || anchor === 'rotater' || !anchor) return next;
        // What is snapped is the corner, not its handle, where that stands off farther than usual.
        const off = frame.padding() - CLEAR;
        const dx = anchor.includes('left') ? -off : anchor.includes('right') ? off : 0;
        const dy = anchor.includes('top') ? -off : anchor.includes('bottom') ? off : 0;
        const { x, y } = this.events.snap(next.x - dx, next.y - dy);
        return { x: x + dx, y: y + dy };
      },
    });
    frame.on('transformstart', () => (this.pulling = true));
    frame.on('transform', (event: { readonly evt: unknown }) => {
      frame.rotationSnaps(
        (event.evt as MouseEvent).shiftKey ? Array.from({ length: 360 / TURN_STEPS }, (_, i) => i * TURN_STEPS) : [],
      );
      frame.rotationSnapTolerance(TURN_STEPS / 2 + 0.1);
      this.events.pulled(this.matrix());
    });
    frame.on('transformend', () => {
      this.pulling = false;
      const [matrix, turned] = [this.matrix(), Math.abs(proxy.rotation()) > 1e-9];
      this.events.let(matrix, turned);
    });
    layer.add(proxy, frame);
    stage.add(layer);
    this.parts = { stage, layer, proxy, frame, circle: Circle };
  }

  get ready(): boolean {
    return this.parts !== undefined;
  }
  /** Whether a handle is pulled at this moment. */
  get busy(): boolean {
    return this.pulling;
  }

  resize(width: number, height: number): void {
    this.parts?.stage.size({ width, height });
  }

  /** Whether a handle lies here, in pixels. */
  hits(x: number, y: number): boolean {
    return this.pulling || (this.parts?.stage.getIntersection({ x, y }) ?? null) !== null;
  }

  /** Puts the handles about a frame; takes them off for none. */
  show(frame: Frame | null): void {
    const { parts } = this;
    if (!parts || this.pulling) return;
    this.from = frame;
    if (!frame) {
      parts.frame.nodes([]);
      return;
    }
    parts.proxy.setAttrs({ ...frame, scaleX: 1, scaleY: 1, rotation: 0, skewX: 0, skewY: 0 });
    // What has no height or no width can't be stretched that way; what is small has room for its corners only, or for none.
    const [least, most] = [Math.min(frame.width, frame.height), Math.max(frame.width, frame.height)];
    const corners = most < 14 ? [] : ['top-left', 'top-right', 'bottom-left', 'bottom-right'];
    const flat =
      frame.height < 1 ? ['middle-left', 'middle-right'] : frame.width < 1 ? ['top-center', 'bottom-center'] : undefined;
    const small = least < SMALL && most < 200 ? corners : undefined;
    parts.frame.padding(least < SMALL ? CLEAR_OF_SMALL : CLEAR);
    parts.frame.enabledAnchors(flat ?? small ?? ALL);
    parts.frame.nodes([parts.proxy]);
  }

  /** Puts points to take hold of where they are; takes them off for none. */
  points(holds: readonly Hold[]): void {
    const { parts } = this;
    if (!parts) return;
    // What is pressed at this moment must stay the same thing.
    if (holds.length === this.holds.length) {
      holds.forEach(({ x, y, small, chosen }, i) => {
        const hold = this.holds[i]!;
        hold.setAttrs({ radius: small ? 3.5 : 5, fill: themeColour(chosen ? '--action' : '--sheet') });
        if (!hold.isDragging()) hold.position({ x, y });
      });
      return;
    }
    for (const hold of this.holds) hold.destroy();
    this.holds = holds.map(({ x, y, small, chosen }, at) => {
      const hold = new parts.circle({
        x,
        y,
        radius: small ? 3.5 : 5,
        fill: themeColour(chosen ? '--action' : '--sheet'),
        stroke: themeColour('--action'),
        strokeWidth: 1.5,
        hitStrokeWidth: 8,
        draggable: true,
      });
      hold.on('dragmove', () => hold.position(this.events.held(at, hold.x(), hold.y())));
      hold.on('dragend', () => this.events.put(at));
      hold.on('pointerdown', () => this.events.pressed(at));
      parts.layer.add(hold);
      return hold;
    });
    parts.frame.moveToTop();
  }

  /** What maps the frame from where it was to where it has been pulled, in pixels. */
  private matrix(): Matrix {
    const { proxy } = this.parts!;
    const { x, y } = this.from!;
    const [a, b, c, d, e, f] = proxy.getTransform().getMatrix() as [number, number, number, number, number, number];
    return [a, b, c, d, e - a * x - c * y, f - b * x - d * y];
  }

  stop(): void {
    this.parts?.stage.destroy();
  }
}
