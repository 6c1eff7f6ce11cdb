import { boxOfMesh, seamsOf, sizesOf } from '../../content/mesh/measure';
import type { Mesh } from '../../contracts/mesh';
import type { ImportPreview } from '../../contracts/codec';
import type { PartWishes } from '../../contracts/wishes';
import { frameOf } from './frame';
import { UNIT_NAMES } from '../../base/bytes/units';

const UNIT_WORDS = { mm: 'millimetres', cm: 'centimetres', m: 'metres', inch: 'inches', ft: 'feet' } as const;
const rounded = (value: number): string => String(Number(value.toPrecision(5)));

/** What is told of triangles that come in: open edges, doubled ones, sizes that look like another unit. */
function remarksOn(meshes: readonly Mesh[]): string[] {
  const remarks: string[] = [];
  for (const mesh of meshes) {
    const { open, crowded } = seamsOf(mesh);
    if (open) remarks.push(`It is not closed: ${open} edges have a triangle on one side only, or two that face apart.`);
    if (crowded) remarks.push(`At ${crowded} edges more than two triangles meet: something is there twice, or bodies touch.`);
  }
  const sizes = meshes
    .map(boxOfMesh)
    .filter((box) => box !== null)
    .map(sizesOf);
  const largest = Math.max(0, ...sizes.flat());
  if (largest > 0 && largest < 1) remarks.push(`It would be ${rounded(largest)} mm long. Is the unit another?`);
  if (largest > 20_000) remarks.push(`It would be ${rounded(largest / 1000)} m long. Is the unit another?`);
  return remarks;
}

/** How triangles would be read of a format that states no unit and no axis. */
export function lookAtTriangles(meshes: readonly Mesh[], _name: string, wishes: Partial<PartWishes>): ImportPreview {
  const { unit, up } = frameOf(wishes);
  const rows = meshes.map((mesh, i) => {
    const box = boxOfMesh(mesh);
    return [String(i + 1), ...(box ? sizesOf(box).map(rounded) : ['', '', '']), String(mesh.triangles.length / 3)];
  });
  return {
    settings: [
      {
        name: 'unit',
        label: 'One of its numbers is',
        value: unit,
        choices: UNIT_NAMES.map((value) => ({ value, label: UNIT_WORDS[value] })),
        sure: wishes.unit !== undefined,
      },
      {
        name: 'up',
        label: 'Up is',
        value: up,
        choices: [
          { value: 'z', label: 'its third axis, z' },
          { value: 'y', label: 'its second axis, y' },
        ],
        sure: wishes.up !== undefined,
      },
    ],
    columns: [
      { name: 'Solid', unit: '', type: 'text' },
      ...['Width x', 'Depth y', 'Height z'].map((name) => ({ name, unit: 'mm', type: 'number' })),
      { name: 'Triangles', unit: '', type: 'number' },
    ],
    rows: rows.slice(0, 12),
    remarks: remarksOn(meshes),
  };
}
