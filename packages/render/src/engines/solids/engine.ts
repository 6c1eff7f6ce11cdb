import {
  type Exact,
  Failure,
  type Fineness,
  type Mesh,
  NO_MESH,
  type Plan,
  type PlanStep,
  type SolidEngine,
  canonical,
  digest,
  readStl,
  seamsOf,
} from '@inkwell-twin/core';
import type { Shape3D } from 'replicad';
import { factsOf } from './facts';
import { type Kernel, withKernel } from './kernel';
import { linesOf } from './lines';
import { type FileShapes, fileKey, makeSolid } from './make';
import { readShapes, writeShapes } from './step';
import { trianglesOf } from './triangles';

type Resource = ((sha: string) => Uint8Array | Promise<Uint8Array>) | undefined;

/** Meshes of late, by plan and fineness; their numbers, at most. */
const meshes = new Map<string, Mesh>();
const MOST_NUMBERS = 30_000_000;
/** How finely places of a file are told apart whose numbers are rounded, mm, the finest first: below what any copy is held to. */
const ROUNDED = [1e-5, 1e-4, 1e-3];

function keep(key: string, mesh: Mesh): Mesh {
  meshes.set(key, mesh);
  const weight = ({ positions, triangles }: Mesh) => positions.length + triangles.length;
  let all = [...meshes.values()].reduce((sum, one) => sum + weight(one), 0);
  for (const [oldest, one] of meshes) {
    if (all <= MOST_NUMBERS || oldest === key) break;
    meshes.delete(oldest);
    all -= weight(one);
  }
  return mesh;
}

const stepKeys = new WeakMap<PlanStep, string>();
const keyOfStep = (step: PlanStep): string => {
  let key = stepKeys.get(step);
  if (key === undefined) stepKeys.set(step, (key = digest(canonical({ ...step, name: '', id: '' }))));
  return key;
};
const keyOf = (steps: readonly PlanStep[]): string => digest(steps.map(keyOfStep).join(' '));

async function bytesOf(sha: string, name: string, resource: Resource): Promise<Uint8Array> {
  if (resource) return resource(sha);
  throw new Failure('resource-missing', `“${name}” takes its shape from a file that is not at hand here.`);
}

/** The files that a plan names, read by the kernel. */
async function filesOf(kernel: Kernel, plan: Plan, resource: Resource): Promise<FileShapes> {
  const shapes = new Map<string, Shape3D>();
  for (const step of plan.steps) {
    if (step.do !== 'join' || step.making.make !== 'file') continue;
    const { sha, part, format } = step.making;
    if (format === 'triangles')
      throw new Failure(
        'solid-invalid',
        `“${plan.name}” is made of triangles that were brought in: nothing can be added to them or cut from them exactly.`,
      );
    const { solids } = await readShapes(kernel, await bytesOf(sha, plan.name, resource));
    const found = solids[part];
    if (found) shapes.set(fileKey(sha, part), found.shape);
  }
  return shapes;
}

/** The step of a plan that is nothing but triangles that came in; they are as they are. */
function onlyTriangles({ steps: [only, ...more] }: Plan): string | null {
  if (!only || more.length || only.do !== 'join' || only.making.make !== 'file') return null;
  return only.making.format === 'triangles' ? only.making.sha : null;
}

async function shapeOf(kernel: Kernel, plan: Plan, resource: Resource): Promise<Shape3D> {
  return makeSolid(kernel, plan, keyOf, await filesOf(kernel, plan, resource));
}

const exactOnly = (plan: Plan): Failure =>
  new Failure(
    'solid-not-exact',
    `“${plan.name}” is made of triangles that were brought in, and an exact file can’t hold those. Derive STL, 3MF, OBJ or glTF.`,
  );

/** Solids by the Open CASCADE kernel. */
export const solidEngine: SolidEngine = {
  async mesh(plan: Plan, how: Fineness, resource): Promise<Mesh> {
    const key = `${plan.hash} ${how.chord} ${how.angle} ${how.share ?? 0}`;
    const known = meshes.get(key);
    if (known) {
      meshes.delete(key);
      meshes.set(key, known);
      return known;
    }
    const sha = onlyTriangles(plan);
    if (sha) return keep(key, readStl(await bytesOf(sha, plan.name, resource), { unit: 'mm', up: 'z' }).mesh);
    return withKernel(async (kernel) => {
      const shape = await shapeOf(kernel, plan, resource);
      const exact: Exact = factsOf(kernel, shape);
      return keep(key, { ...NO_MESH, ...trianglesOf(kernel, shape, how), exact });
    });
  },
  async writeStep(plans, unit, resource) {
    const [triangles] = plans.filter((plan) => onlyTriangles(plan));
    if (triangles) throw exactOnly(triangles);
    return withKernel(async (kernel) => {
      const shapes: { shape: Shape3D; name: string; colour: string }[] = [];
      for (const plan of plans)
        shapes.push({ shape: await shapeOf(kernel, plan, resource), name: plan.name, colour: plan.colour });
      return writeShapes(kernel, shapes, unit);
    });
  },
  readStep: (bytes, how) =>
    withKernel(async (kernel) => {
      const meshed = async (precision?: number) => {
        const { solids, told } = await readShapes(kernel, bytes, precision);
        const read = solids.map(({ shape, name, colour }) => {
          const triangles = trianglesOf(kernel, shape, how);
          return { name, colour, mesh: { ...NO_MESH, ...triangles, colour, exact: factsOf(kernel, shape) } };
        });
        return { told, solids: read, isClosed: read.every(({ mesh }) => seamsOf(mesh).open === 0) };
      };
      const first = await meshed();
      let found = first;
      // Numbers that were saved with fewer digits than the file says it is exact to leave gaps between edges.
      for (const precision of first.told.length ? [] : ROUNDED) {
        if (found.isClosed) break;
        found = await meshed(precision);
      }
      const { told, solids } = found.isClosed ? found : first;
      return { told, solids };
    }),
  async lines(plan, view, how, resource) {
    const sha = onlyTriangles(plan);
    if (sha) throw exactOnly(plan);
    return withKernel(async (kernel) => linesOf(kernel, await shapeOf(kernel, plan, resource), view, how));
  },
};
