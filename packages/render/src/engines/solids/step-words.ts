import { type Exchange, type Value, isRef, refsIn } from './part21';
import { isKnown, isNote } from './step-known';

/** A solid as the entities of a file name and paint it. */
interface NamedBody {
  readonly name: string;
  readonly colour: string;
  /** Bodies that are one solid. */
  readonly bodies: number;
}

const BODIES: ReadonlySet<string> = new Set(['MANIFOLD_SOLID_BREP', 'BREP_WITH_VOIDS', 'FACETED_BREP']);
const REPRESENTATION = /SHAPE_REPRESENTATION$/;
/** By which something is shown elsewhere. */
const MAP = /^(REPRESENTATION_MAP|MAPPED_ITEM)$|SHAPE_REPRESENTATION$/;

const hex = (value: Value | undefined): string =>
  Math.round(255 * Math.min(1, Math.max(0, Number(value))))
    .toString(16)
    .padStart(2, '0');
/** Colours that have names of their own in the standard (ISO 10303-46, pre-defined colours). */
const NAMED: Readonly<Record<string, string>> = {
  black: '#000000',
  white: '#ffffff',
  red: '#ff0000',
  green: '#00ff00',
  blue: '#0000ff',
  yellow: '#ffff00',
  magenta: '#ff00ff',
  cyan: '#00ffff',
};

/** Names, colours and counts of the bodies of a file, in the order in which a kernel comes to them; null where that is not plain. */
export class StepWords {
  private readonly users = new Map<number, number[]>();
  /** Colours of what is painted. */
  private readonly paint = new Map<number, string>();
  /** Things painted that are no body: single faces, edges. */
  readonly paintedFaces: number;

  constructor(private readonly exchange: Exchange) {
    let faces = 0;
    for (const [id, { kinds }] of exchange.entities)
      for (const { kind, values } of kinds) {
        for (const ref of refsIn(values)) this.users.set(ref, [...(this.users.get(ref) ?? []), id]);
        if (kind !== 'STYLED_ITEM' && kind !== 'OVER_RIDING_STYLED_ITEM') continue;
        const colour = this.colourBelow(refsIn(values[1]), 0);
        const item = isRef(values[2]) ? values[2].ref : -1;
        if (!colour) continue;
        if (this.isBody(item)) this.paint.set(item, colour);
        else if (this.kindsOf(item).some((one) => REPRESENTATION.test(one) || one === 'SHELL_BASED_SURFACE_MODEL'))
          this.paint.set(item, colour);
        else faces++;
      }
    this.paintedFaces = faces;
  }

  private kindsOf(id: number): string[] {
    return this.exchange.entities.get(id)?.kinds.map(({ kind }) => kind) ?? [];
  }
  private isBody(id: number): boolean {
    return this.kindsOf(id).some((kind) => BODIES.has(kind));
  }
  private valuesOf(id: number, wanted?: string): readonly Value[] {
    const kinds = this.exchange.entities.get(id)?.kinds ?? [];
    return (wanted ? kinds.find(({ kind }) => kind === wanted) : kinds[0])?.values ?? [];
  }

  private colourBelow(refs: readonly number[], depth: number): string {
    if (depth > 8) return '';
    for (const ref of refs)
      for (const { kind, values } of this.exchange.entities.get(ref)?.kinds ?? []) {
        if (kind === 'COLOUR_RGB') return `#${hex(values[1])}${hex(values[2])}${hex(values[3])}`;
        if (kind === 'DRAUGHTING_PRE_DEFINED_COLOUR') return NAMED[String(values[0])] ?? '';
        if (kind === 'CURVE_STYLE') continue;
        const found = this.colourBelow(refsIn(values), depth + 1);
        if (found) return found;
      }
    return '';
  }

  /** The name of the product that a representation shows, itself or by way of a map (ISO 10303-43, 4.4.12). */
  private productOf(representation: number, seen = new Set<number>()): string {
    for (const user of this.users.get(representation) ?? []) {
      const kinds = this.kindsOf(user);
      if (kinds.some((one) => MAP.test(one)) && !seen.has(user)) {
        const above = this.productOf(user, seen.add(user));
        if (above) return above;
      }
      if (!kinds.includes('SHAPE_DEFINITION_REPRESENTATION')) continue;
      const [shape] = refsIn(this.valuesOf(user)[0]);
      const [definition] = refsIn(this.valuesOf(shape ?? -1)[2]);
      const [formation] = refsIn(this.valuesOf(definition ?? -1)[2]);
      const [product] = refsIn(this.valuesOf(formation ?? -1)[2]);
      const [id, name] = this.valuesOf(product ?? -1);
      return typeof name === 'string' && name ? name : typeof id === 'string' ? id : '';
    }
    return '';
  }

  /** All representations that hold bodies, in the order of their numbers. */
  private holders(): { id: number; bodies: number[] }[] {
    return [...this.exchange.entities.keys()].flatMap((id) => {
      if (!this.kindsOf(id).some((kind) => REPRESENTATION.test(kind))) return [];
      const bodies = this.exchange.entities
        .get(id)!
        .kinds.flatMap(({ values }) => refsIn(values[1]))
        .filter((one) => this.isBody(one));
      return bodies.length ? [{ id, bodies }] : [];
    });
  }

  /** How often each holder is placed by assemblies; once where there are none. */
  bodies(): NamedBody[] {
    return this.holders().flatMap(({ id, bodies }): NamedBody[] => {
      const product = this.productOf(id);
      const own = this.paint.get(id) ?? '';
      const one = (body: number) => this.paint.get(body) ?? own;
      const colours = new Set(bodies.map(one));
      const names = new Set(bodies.map((body) => String(this.valuesOf(body)[0] ?? '')).filter(Boolean));
      // One product is one solid, of however many bodies, unless they have names or colours of their own.
      if (bodies.length === 1 || (colours.size === 1 && names.size < 2))
        return [{ name: product || ([...names][0] ?? ''), colour: [...colours][0] ?? '', bodies: bodies.length }];
      return bodies.map((body) => ({ name: String(this.valuesOf(body)[0] ?? '') || product, colour: one(body), bodies: 1 }));
    });
  }

  /** Entities that show something and are no solid: surfaces, curves, points on their own, notes and dimensions. */
  others(): Map<string, number> {
    const found = new Map<string, number>();
    const count = (kind: string) => found.set(kind, (found.get(kind) ?? 0) + 1);
    for (const { kinds } of this.exchange.entities.values())
      for (const { kind } of kinds) {
        if (
          kind === 'SHELL_BASED_SURFACE_MODEL' ||
          kind === 'GEOMETRIC_CURVE_SET' ||
          kind === 'GEOMETRIC_SET' ||
          kind === 'TESSELLATED_SHELL' ||
          kind === 'TESSELLATED_SOLID' ||
          kind === 'CSG_SOLID'
        )
          count(kind.toLowerCase().replaceAll('_', ' '));
        if (isNote(kind)) count('dimension, note or tolerance');
        if (!isKnown(kind)) count(`entity “${kind.slice(0, 60)}”`);
        if (kind === 'INVISIBILITY') count('hidden thing');
      }
    if (this.paintedFaces) found.set('colour of a single face', this.paintedFaces);
    return found;
  }
}
