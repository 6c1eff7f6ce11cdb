import { Failure } from '../../base/failure/failure';
import type { CarryLines } from '../../contracts/report';
import type { Plan } from '../../contracts/plan';
import type { Carry } from '../../contracts/kind';
import type { Services } from '../../contracts/services';
import { EXACT_FINENESS } from '../../contracts/solids';
import type { MeshCarries } from './features';
import type { Mesh } from '../../contracts/mesh';

/** A solid to be made: how, and the nodes that it is made of. */
export interface PlannedSolid {
  readonly plan: Plan;
  /** Features and parameters. */
  readonly nodes: readonly string[];
}

const outcomeOf = (carry: Carry) => (typeof carry === 'string' ? carry : carry.outcome);
const wordsOf = (carry: Carry, otherwise: string) => (typeof carry === 'string' ? otherwise : carry.words);

/** What a solid says in a target, and what becomes of it on the way. */
export async function adaptSolid(
  { plan, nodes }: PlannedSolid,
  carries: MeshCarries,
  lines: CarryLines,
  { solids, resource }: Services,
): Promise<Mesh> {
  if (!solids) throw new Failure('setup', 'Solids can’t be made here: the kernel is not at hand. This is a defect of ours.');
  const { shape, colours } = carries;
  lines.take(plan.id);
  const exact = shape === 'kept';
  const how = typeof shape === 'object' ? shape : EXACT_FINENESS;
  const mesh = await solids.mesh(plan, how, resource);
  // Triangles that came in stay the triangles that they are.
  if (!exact && mesh.exact)
    lines.line(
      'shape',
      outcomeOf(shape),
      'Surfaces',
      wordsOf(shape, 'become triangles'),
    )(plan.id, plan.id, mesh.exact ? how.chord : undefined);
  const history = lines.line(
    'features',
    outcomeOf(carries.features),
    'Features and parameters',
    wordsOf(carries.features, 'arrive as the shape that they make'),
  );
  if (nodes.length && mesh.exact && carries.features !== 'kept') for (const node of nodes) history(plan.id, node);
  if (plan.colour && colours !== 'kept')
    lines.line('colours', outcomeOf(colours), 'Colours', wordsOf(colours, 'have no place'))(plan.id);
  return {
    ...mesh,
    exact: exact ? mesh.exact : null,
    colour: colours === 'left out' ? '' : plan.colour,
    source: plan.id,
    ...(exact ? { plan } : {}),
  };
}
