import type { Amount, EdgeRule, Feature, SolidOutline } from '../../document/solids/schema';

const said = (amount: Amount): string => String(amount);
const place = (amounts: readonly Amount[]): string => amounts.map(said).join(', ');
const PLANE_WORDS = { xy: 'flat', xz: 'upright, facing the front', yz: 'upright, facing the side' } as const;
const JOIN_WORDS = { add: '', cut: ', cut away', common: ', only what is common' } as const;

/** What an outline is, in words. */
export function outlineInWords(outline: SolidOutline, nameOf: (object: string) => string | undefined): string {
  switch (outline.shape) {
    case 'rectangle':
      return `${said(outline.width)} × ${said(outline.height)}${outline.corner === undefined ? '' : `, corners ${said(outline.corner)}`}`;
    case 'circle':
      return `circle ${said(outline.diameter)}`;
    case 'regular':
      return `${said(outline.sides)} sides, ${said(outline.across)} across`;
    case 'points':
      return `outline of ${outline.points.length} corners`;
    case 'object':
      return `outline of “${nameOf(outline.object) ?? 'something gone'}”`;
  }
}

/** Which edges a rule means, in words. */
export function edgesInWords({ along, on, form, near }: EdgeRule): string {
  const words = [
    form === 'round' ? 'round edges' : form === 'straight' ? 'straight edges' : 'edges',
    ...(along ? [`along ${along}`] : []),
    ...(on ? [`at ${on.axis} = ${said(on.value)}`] : []),
    ...(near ? [`nearest to ${place(near)}`] : []),
  ];
  return words.length > 1 || form ? words.join(' ') : 'all edges';
}

/** What a feature does, as one reads it in a list. */
export function featureInWords(feature: Feature, nameOf: (id: string) => string | undefined): string {
  switch (feature.op) {
    case 'extrude':
      return `${outlineInWords(feature.outline, nameOf)}, ${PLANE_WORDS[feature.plane]}, by ${said(feature.by)}${JOIN_WORDS[feature.join]}`;
    case 'revolve':
      return `${outlineInWords(feature.outline, nameOf)}, turned by ${said(feature.angle)}°${JOIN_WORDS[feature.join]}`;
    case 'hole':
      return `⌀ ${said(feature.diameter)} along ${feature.axis} at ${place(feature.at)}${feature.depth === undefined ? ', through' : `, ${said(feature.depth)} deep`}${feature.sink ? `, sunk ⌀ ${said(feature.sink.diameter)}` : ''}`;
    case 'row':
      return `“${nameOf(feature.of) ?? 'something gone'}” ${said(feature.count)} times, step ${place(feature.step)}`;
    case 'ring':
      return `“${nameOf(feature.of) ?? 'something gone'}” ${said(feature.count)} times about ${feature.axis}, every ${said(feature.angle)}°`;
    case 'fillet':
      return `radius ${said(feature.radius)} at ${feature.edges.map(edgesInWords).join('; ')}`;
    case 'chamfer':
      return `${said(feature.distance)} off ${feature.edges.map(edgesInWords).join('; ')}`;
    case 'file':
      // eslint-disable-next-line no-restricted-syntax -- how the native file names where a solid came from
      return feature.format === 'step' ? 'exactly as it came in' : 'triangles as they came in';
  }
}
