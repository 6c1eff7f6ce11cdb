import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  type OnDestroy,
  afterNextRender,
  computed,
  effect,
  input,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { type Box, type Machining, type MachineProfile, needleAfter, needleAt, runOf } from '@inkwell-twin/core/web';
import { CanvasSurface, themeColour } from '../stage/canvas-surface';
import { boardAxes, paintSheet } from '../stage/paint';
import { type View, fitView, zoomView } from '../stage/view';
import { Choice } from '../../shared/choice';
import { SliderField } from '../../shared/slider';
import { counted, durationInWords, lengthInWords } from '../../shared/words';
import { JobPainter } from './job-painter';
import { StockLook } from './stock-look';

/** How long the whole of a job takes where one only watches it, s. */
const WATCHED = 16;
/** The line has so many places. */
const PLACES = 2000;

/** A job as it runs on its bed, in its order: a needle that one pulls along it, or lets run. */
@Component({
  selector: 'twin-job-look',
  imports: [Choice, SliderField, StockLook],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (hasStock()) {
      <twin-choice class="shows" label="What is shown" [choices]="shows" [value]="shown()" (chosen)="shown.set($event)" />
    }
    @if (shown() === 'stock' && hasStock()) {
      @defer (on immediate) { <twin-stock-look [run]="run()" [machine]="machine()!" [needle]="needle()" /> }
    }
    <canvas
      [hidden]="shown() === 'stock' && hasStock()"
      #canvas
      role="img"
      [attr.aria-label]="'The job on its bed. ' + said()"
      (wheel)="wheel($event)"
      (pointerdown)="grab($event)"
      (pointermove)="drag($event)"
      (pointerup)="held = null"
    ></canvas>
    <div class="along">
      <button type="button" class="link" [disabled]="!run().moves.count" (click)="toggle()">{{ running() ? 'Hold' : 'Let it run' }}</button>
      <div class="line">
        <div class="tools" aria-hidden="true">
          @for (one of tools(); track $index) {
            <span [style.left.%]="one.from" [style.width.%]="one.share" [class.odd]="$odd" [title]="one.name">{{ one.share > 12 ? one.name : '' }}</span>
          }
        </div>
        <twin-slider label="Needle along the job" [value]="place()" [least]="0" [most]="places" (trying)="pull($event)" />
      </div>
      <span class="step">
        <button type="button" class="link" (click)="step(-1)" [disabled]="number() <= 1" aria-label="The move before">‹</button>
        <button type="button" class="link" (click)="step(1)" [disabled]="number() >= run().moves.count" aria-label="The next move">›</button>
      </span>
    </div>
    <p class="said" role="status">{{ said() }}</p>
    <p class="facts">{{ facts() }}</p>
  `,
  styles: `
    :host { position: relative; display: block; flex: none; border-bottom: 1px solid var(--hairline); }
    .shows { position: absolute; top: 8px; right: 14px; z-index: 1; padding: 3px 10px; border-radius: 6px; background: var(--raised); }
    canvas[hidden] { display: none; }
    twin-stock-look { height: var(--job-height, var(--look-height, 240px)); }
    canvas { display: block; width: 100%; height: var(--job-height, var(--look-height, 240px)); background: var(--stage); touch-action: none; }
    .along { display: flex; align-items: end; gap: 12px; padding: 6px 14px 0; }
    .line { flex: 1; min-width: 0; }
    .tools { position: relative; height: 17px; margin: 0 7px 7px; font-size: 11.5px; color: var(--ink-two); }
    .tools span { position: absolute; inset-block: 0; padding-left: 4px; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; border-left: 1px solid var(--ink-three); background: var(--sheet); }
    .tools .odd { background: var(--action-soft); }
    .step { display: flex; gap: 10px; }
    .step .link { min-width: 18px; font-size: 16px; }
    p { margin: 0; padding: 4px 14px 0; }
    .said { font: 12px var(--mono); min-height: 34px; }
    .facts { padding-bottom: 8px; color: var(--ink-two); font-size: 12.5px; }
  `,
})
export class JobLook implements OnDestroy {
  readonly moves = input.required<Machining>();
  /** The machine that it is for; null where nobody says. */
  readonly machine = input<MachineProfile | null>(null);
  /** The same job with the names of its objects; null where nobody knows them. */
  readonly named = input<Machining | null>(null);

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly surface = new CanvasSurface((context, ratio) => this.draw(context, ratio));
  protected readonly run = computed(() => runOf(this.moves(), this.machine()));
  private readonly painter = computed(() => new JobPainter(this.run(), this.machine()));
  private readonly view = signal<View | null>(null);
  /** s from the beginning; the whole of it is done at first. */
  private readonly time = linkedSignal(() => this.run().seconds);
  /** The move that was stepped to; null where the time says which. */
  private readonly stepped = signal<number | null>(null);
  protected readonly shows = [
    { value: 'ways', label: 'Its ways' },
    { value: 'stock', label: 'The stock' },
  ];
  protected readonly shown = signal('ways');
  /** Only a machine that goes into its stock leaves something of it. */
  protected readonly hasStock = computed(() => (this.machine()?.area.depth ?? 0) > 0 && (this.run().extents?.min[2] ?? 0) < 0);
  protected readonly needle = computed(() => {
    const [run, stepped] = [this.run(), this.stepped()];
    return stepped !== null && stepped < run.moves.count ? needleAfter(run, stepped) : needleAt(run, this.time());
  });
  protected readonly running = signal(false);
  protected held: { readonly x: number; readonly y: number } | null = null;
  private frame = 0;
  protected readonly places = PLACES;
  protected readonly place = computed(() => Math.round((this.time() / (this.run().seconds || 1)) * PLACES));
  /** Of the move that is made, from 1. */
  protected readonly number = computed(() => (this.needle()?.move ?? -1) + 1);

  /** Which tool works when, in hundredths of the time. */
  protected readonly tools = computed(() => {
    const { moves, times, seconds } = this.run();
    const found: { name: string; from: number; share: number }[] = [];
    let begun = 0;
    for (let i = 1; i <= moves.count; i++) {
      if (i < moves.count && moves.tool[i] === moves.tool[i - 1]) continue;
      const until = i < moves.count ? times.begins[i]! : seconds;
      const share = seconds ? (100 * (until - begun)) / seconds : 0;
      found.push({ name: this.toolName(moves.tool[i - 1]!), from: seconds ? (100 * begun) / seconds : 0, share });
      begun = until;
    }
    return found;
  });

  private toolName(tool: number): string {
    const { number, name } = this.run().moves.tools[tool]!;
    // A file has no more than its number.
    return this.machine()?.tools.find((one) => one.number === number)?.name ?? (name || `tool ${number}`);
  }

  /** Where the needle is, in words. */
  protected readonly said = computed(() => {
    const [needle, { moves, seconds, extents }] = [this.needle(), this.run()];
    if (!needle) return 'There is no move in it.';
    const { move, place } = needle;
    const deep = extents && extents.min[2] < 0;
    const of = place
      .slice(0, deep ? 3 : 2)
      .flatMap((value, axis) => (Number.isNaN(value) ? [] : [`${'xyz'[axis]} ${value.toFixed(2)}`]));
    const names = this.named();
    const name = names?.count === moves.count ? names.names[names.source[move]!] : undefined;
    const feed = moves.feed[move]!;
    const works = Number.isNaN(feed) ? '' : `${Math.round(feed)} mm/min`;
    const how = moves.motion[move] ? works : 'through the air';
    return [
      `${durationInWords(this.time())} of ${durationInWords(seconds)}`,
      `move ${move + 1} of ${moves.count}`,
      this.toolName(moves.tool[move]!),
      of.join(' '),
      how,
      name,
    ]
      .filter(Boolean)
      .join(' · ');
  });
  protected readonly facts = computed(() => {
    const { extents, worked, travelled, twice, moves } = this.run();
    if (!extents) return '';
    if (moves.tools.some(({ colour }) => colour)) return this.threads();
    const { min, max } = extents;
    const along = (axis: number): string => `${min[axis]!.toFixed(1)} to ${max[axis]!.toFixed(1)}`;
    const deep = min[2] < 0 ? `, down to ${(-min[2]).toFixed(2)} mm` : '';
    const again = twice ? `, ${lengthInWords(twice)} of it along the same way twice` : ', nothing twice';
    return `It works ${lengthInWords(worked)}${again}, and goes ${lengthInWords(travelled)} in between; x ${along(0)}, y ${along(1)} mm${deep}.`;
  });

  /** How many stitches it has, and how much of each thread. */
  private threads(): string {
    const { moves, times } = this.run();
    const lengths = new Float64Array(moves.tools.length);
    let stitches = 0;
    for (let i = 0; i < moves.count; i++)
      if (moves.motion[i]) {
        stitches++;
        lengths[moves.tool[i]!]! += times.lengths[i]!;
      }
    const each = moves.tools.map(
      ({ number, colour }, i) => `thread ${number} (${colour ?? 'no colour'}) ${lengthInWords(lengths[i]!)}`,
    );
    return `${counted(stitches, 'stitch', 'stitches')}; ${each.join(', ')}, as they lie on the cloth.`;
  }

  constructor() {
    afterNextRender(() => this.surface.attach(this.canvas()));
    effect(() => {
      const { width, height } = this.surface.size();
      if (width) this.view.set(fitView(this.boxOfJob(), width, height, 14));
    });
    effect(() => {
      this.painter();
      this.needle();
      this.view();
      this.surface.request();
    });
  }

  /** What the job covers. The bed is often much larger: one zooms out to it. */
  private boxOfJob(): Box {
    const { extents } = this.run();
    if (!extents) return { minX: 0, minY: 0, maxX: 100, maxY: 100 };
    const { min, max } = extents;
    return { minX: min[0], minY: min[1], maxX: max[0], maxY: max[1] };
  }

  protected pull(place: number): void {
    this.stop();
    this.stepped.set(null);
    this.time.set((place / PLACES) * this.run().seconds);
  }

  /** To the end of a move before or after. */
  protected step(by: number): void {
    this.stop();
    const { times } = this.run();
    const next = this.number() - 1 + by;
    const move = Math.max(0, Math.min(times.ends.length - 1, next));
    this.stepped.set(move);
    this.time.set(times.ends[move] ?? 0);
  }

  protected toggle(): void {
    if (this.running()) return this.stop();
    const { seconds } = this.run();
    this.stepped.set(null);
    if (this.time() >= seconds) this.time.set(0);
    this.running.set(true);
    let before = performance.now();
    const on = (now: number): void => {
      this.time.update((time) => Math.min(seconds, time + ((now - before) / 1000) * (seconds / WATCHED)));
      before = now;
      if (this.time() < seconds) this.frame = requestAnimationFrame(on);
      else this.stop();
    };
    this.frame = requestAnimationFrame(on);
  }
  private stop(): void {
    cancelAnimationFrame(this.frame);
    this.running.set(false);
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.view.update((view) => view && zoomView(view, Math.exp(-event.deltaY * 0.0015), event.offsetX, event.offsetY));
  }
  protected grab(event: PointerEvent): void {
    this.held = { x: event.offsetX, y: event.offsetY };
    this.canvas().nativeElement.setPointerCapture(event.pointerId);
  }
  protected drag(event: PointerEvent): void {
    const held = this.held;
    if (!held) return;
    this.held = { x: event.offsetX, y: event.offsetY };
    this.view.update((view) => view && { ...view, x: view.x + event.offsetX - held.x, y: view.y + event.offsetY - held.y });
  }

  private draw(context: CanvasRenderingContext2D, ratio: number): void {
    const [view, needle, machine] = [this.view(), this.needle(), this.machine()];
    if (!view) return;
    boardAxes(context, view, ratio);
    if (machine) {
      const { width, height } = machine.area;
      const middle = machine.origin === 'middle';
      context.save();
      if (middle) context.translate(-width / 2, -height / 2);
      paintSheet(context, { width, height }, themeColour('--raised'), view, themeColour('--ink-three'));
      context.restore();
    }
    if (needle)
      this.painter().paint(context, needle, view.scale, {
        ink: themeColour('--ink'),
        air: themeColour('--faint'),
        needle: themeColour('--action'),
      });
  }

  ngOnDestroy(): void {
    this.stop();
    this.surface.detach();
  }
}
