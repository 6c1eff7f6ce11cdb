import { ByteWriter } from '../../base/bytes/byte-writer';
import { plainXml } from '../../base/bytes/xml-text';
import type { Leaf } from '../../contracts/leaf';
import type { Mesh } from '../../contracts/mesh';
import { packEntries } from '../../document/native/zip';
import type { Options } from '../../contracts/declaration';
import { frameOf, placed } from '../solids/frame';
import { CORE, MODEL, START, UNIT_WORDS } from './declare';

const TYPES = `<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/><Default Extension="xml" ContentType="application/xml"/></Types>
`;
const RELATIONS = `<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/${MODEL}" Id="r1" Type="${START}"/></Relationships>
`;
/** The mark stands in an entry of its own that is not packed, so that its digest can be filled in afterwards. */
export const MARK_ENTRY = 'Metadata/origin.xml';

/** Solids as a 3MF package: an object and an item of the build each. */
export function writeThreeMf(leaves: readonly Leaf[], options: Options, mark: string): Uint8Array {
  const { unit } = frameOf(options);
  const out = new ByteWriter();
  const meshes = leaves.map(({ body }) => body as Mesh);
  const colours = [...new Set(meshes.map(({ colour }) => colour).filter(Boolean))];
  out.text(
    `<?xml version="1.0" encoding="UTF-8"?>\n<model unit="${UNIT_WORDS[unit]}" xml:lang="en" xmlns="${CORE}">\n<resources>\n`,
  );
  if (colours.length) {
    out.text('<basematerials id="1">');
    for (const colour of colours) out.text(`<base name="${colour}" displaycolor="${colour.toUpperCase()}FF"/>`);
    out.text('</basematerials>\n');
  }
  meshes.forEach((mesh, i) => {
    const painted = mesh.colour ? ` pid="1" pindex="${colours.indexOf(mesh.colour)}"` : '';
    const name = leaves[i]!.label ? ` name="${plainXml(leaves[i]!.label)}"` : '';
    out.text(`<object id="${i + 2}" type="model"${name}${painted}><mesh>\n<vertices>\n`);
    const corners = placed(mesh.positions, { unit, up: 'z' });
    for (let k = 0; k < corners.length; k += 3) {
      out.text('<vertex x="');
      out.number(corners[k]!, 6);
      out.text('" y="');
      out.number(corners[k + 1]!, 6);
      out.text('" z="');
      out.number(corners[k + 2]!, 6);
      out.text('"/>\n');
    }
    out.text('</vertices>\n<triangles>\n');
    const { triangles } = mesh;
    for (let t = 0; t < triangles.length; t += 3)
      out.text(`<triangle v1="${triangles[t]}" v2="${triangles[t + 1]}" v3="${triangles[t + 2]}"/>\n`);
    out.text('</triangles>\n</mesh></object>\n');
  });
  out.text(`</resources>\n<build>${meshes.map((_, i) => `<item objectid="${i + 2}"/>`).join('')}</build>\n</model>\n`);
  const text = (words: string) => new TextEncoder().encode(words);
  return packEntries(
    new Map([
      ['[Content_Types].xml', text(TYPES)],
      ['_rels/.rels', text(RELATIONS)],
      [MODEL, out.bytes()],
      [MARK_ENTRY, text(`<?xml version="1.0" encoding="UTF-8"?>\n<origin>${plainXml(mark)}</origin>\n`)],
    ]),
    new Set([MARK_ENTRY]),
  );
}
