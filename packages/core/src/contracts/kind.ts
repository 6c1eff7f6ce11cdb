import type { Hasher } from '../base/bytes/hasher';
import type { Sketch } from '../base/bytes/sketch';
import type { CarryLines } from './report';
import type { PartList, Scope } from './schemas';
import type { Matrix } from '../base/geometry/matrix';
import type { DrawnPicture } from './drawn-picture';
import type { MaybePromise, Services } from './services';
import type { Box } from '../base/geometry/measure';
import type { Difference, DifferenceKind } from './difference';
import type { Finding, JobSize } from './finding';
import type { Master } from '../document/schema';
import type { Deviation } from '../base/geometry/farthest';

/** What becomes of one feature in a conversion. */
export type Outcome = 'kept' | 'restated' | 'approximated' | 'left out';

/** What becomes of a feature, and where it is rewritten, into what: in words for people, and in numbers for `adapt`. */
export type Carry<How = object> =
  'kept' | 'left out' | ({ readonly outcome: 'restated' | 'approximated'; readonly words: string } & How);

/** What each feature of a kind of content becomes in a target. A feature that a target says nothing of does not exist. */
export type CarriesOf<Features> = { readonly [F in keyof Features]: Carry<Features[F]> };

/** One feature of a kind of content: the one row that footprint, report, comparison, `twin targets`, the docs and the tests read. */
export interface FeatureRow {
  /** What people call it: "Fills". */
  readonly words: string;
  /** How a change of it is found where it is carried; empty for what only ever has a word in the report. */
  readonly found: readonly DifferenceKind[];
  /** May be left out by choice. */
  readonly optional?: true;
  /** Tells the parts of a copy apart: a copy of one part does not carry it. */
  readonly ofMany?: true;
  /** No loss to who looks at a copy: what its content is made by, as how many pixels on which paper, or what nobody sees. */
  readonly aside?: true;
}

/** One part of a master that becomes one part of a copy: a board, say. */
export interface LeafSource<Source> {
  readonly key: string;
  readonly label: string;
  readonly source: Source;
}

/** What a copy depends on in one part of it: a hash of all of it, and node by node what of it is carried. */
export interface LeafPrint {
  readonly key: string;
  readonly hash: string;
  /** Node → feature → what was read there. Only walked when somebody asks what changed. */
  readonly parts: () => ReadonlyMap<string, ReadonlyMap<string, string>>;
}

export interface CompareSettings<Carries = unknown> {
  /** Largest deviation that still counts as the same, mm. */
  readonly tolerance: number;
  readonly carries: Carries;
  /** Names of the master's objects, by id. */
  readonly nameOf?: ((source: string) => string | undefined) | undefined;
}

export interface Comparison {
  readonly differences: readonly Difference[];
  /** Outlines of the master's side, and how many have their equal in the copy. */
  readonly outlines: number;
  readonly equal: number;
  /** What is otherwise and changes nothing of what a copy says. */
  readonly remarks?: readonly string[];
  /** What is counted; outlines where nothing is said. */
  readonly counted?: string;
}

/** A body as it crosses to a worker or a browser: numbers by transfer, the rest as JSON. */
export interface Packed {
  readonly head: unknown;
  readonly buffers: readonly ArrayBufferView[];
}

/** A picture as it stands on a board: `at` maps the square of 1 that is all of it to the board. */
export interface ShownPicture {
  readonly picture: DrawnPicture;
  readonly at: Matrix;
}

/** What is drawn of one side of a comparison, whatever it is: where each numbered thing is. */
export interface Shown {
  readonly count: number;
  readonly boxOf: (entry: number) => Box;
}

/** What a browser asks of a kind on every edit; its folder's `index.ts` says it, without the rest. */
export interface KindDeclaration {
  readonly id: string;
  /** "Drawing". */
  readonly words: string;
  /** The kind of what its copies say, where that is another's. */
  readonly says?: string;
  /** Which list of a master it is made of; boards where nothing is said. */
  readonly of?: PartList;
  readonly features: Readonly<Record<string, FeatureRow>>;
  /** What a copy depends on, part by part. Equal `carries` are best the same object: what they read is kept by it. */
  readonly footprint: (master: Master, scope: Scope, carries: never) => readonly LeafPrint[];
}

/**
 * A kind of content: what a copy can say, free of any format.
 * @typeParam Source a part of a master with everything expanded
 * @typeParam Body what is written and read back
 * @typeParam Carries what a target holds of each feature
 */
export interface ContentKind<Source = never, Body = never, Carries = never> extends KindDeclaration {
  /** The parts of a master that a scope names, in order. @throws Failure where the scope names what is not there */
  readonly resolve: (
    master: Master,
    scope: Scope,
    services: Pick<Services, 'fonts'>,
    carries: Carries,
  ) => readonly LeafSource<Source>[];
  /** The name of a part as the target spells it; empty where it carries none. */
  readonly label: (label: string, carries: Carries) => string;
  /** Millimetres say nothing of it: a tolerance in them is not for this kind. */
  readonly withoutLengths?: true;
  /** A part that is alone keeps its name; of the others the name of the copy is enough. */
  readonly namedAlone?: true;
  /** The master that its parts are found in, where that is not the document itself: boards that are made for the copy alone. */
  readonly staged?: (master: Master, scope: Scope, carries: Carries) => Master;
  /** Rewrites what a target can't hold and writes down every rewrite. Pure. */
  readonly adapt: (source: Source, carries: Carries, lines: CarryLines, services: Services) => MaybePromise<Body>;
  /** Puts what a body says into a hash: equal bodies, to a thousandth of a millimetre, put in the same. */
  readonly digest: (body: Body, into: Hasher) => void;
  /** Puts in what a body is made of, piece by piece, each so that it is the same wherever it stands and whatever else is there. */
  readonly sample: (body: Body, into: Sketch) => void;
  readonly compare: (master: Body, copy: Body, settings: CompareSettings<Carries>) => Comparison;
  /** What a target would carry that rewrote no line; null where it rewrites none. */
  readonly exactly?: (carries: Carries) => object | null;
  /** Where a copy's body is farthest from one without rewritten lines. Present with `exactly`. */
  readonly farthest?: (exact: Body, copy: Body) => Deviation | null;
  /** What keeps a part from being made on the machine that a target is for, gravest first; absent where there is no machine. */
  readonly fit?:
    ((source: Source, carries: Carries, services: Pick<Services, 'fonts'>) => MaybePromise<readonly Finding[]>) | undefined;
  /** How long and how far a machine works at a body. Present with `fit`. */
  readonly size?: ((body: Body, carries: Carries) => JobSize) | undefined;
  /** What of a body is more than a format can hold, in words; null where nothing is. */
  readonly exceeds?: (body: Body, limits: { readonly rows?: number; readonly columns?: number }) => string | null;
  /** The picture that an entry shows, where it shows one. */
  readonly pictureAt?: (body: Body, entry: number) => ShownPicture | null;
  readonly pack: (body: Body) => Packed;
  readonly unpack: (packed: Packed) => Body;
}
