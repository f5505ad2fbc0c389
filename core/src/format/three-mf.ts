import { strToU8, zipSync } from 'fflate';
import { type ColouredMesh } from '../solid/index.js';

const escaped = (text: string): string =>
  text.replace(/\p{Cc}/gu, '?').replace(/[&<>"']/gu, (character) => `&#${character.codePointAt(0)!};`);

const CONTENT_TYPES =
  '<?xml version="1.0" encoding="UTF-8"?>\n<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">' +
  '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>' +
  '<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>';
const RELATIONS =
  '<?xml version="1.0" encoding="UTF-8"?>\n<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">' +
  '<Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>';

/** Decimals of a millimetre that coordinates are written with: finer than the grid of the plan. */
const DECIMALS = 6;

/** A solid in its finishes with the name of its object. */
export interface NamedMesh {
  readonly name: string;
  readonly mesh: ColouredMesh;
}

/**
 * A 3MF package (3MF Core Specification 1.2: unit, base materials, one closed object a piece of the sign, every triangle with the
 * material of its finish).
 * @param date of the entries of the package, so that the same sign gives the same bytes
 */
export function threeMfFile(pieces: readonly NamedMesh[], title: string, date: Date): Uint8Array {
  const out: string[] = [
    '<?xml version="1.0" encoding="UTF-8"?>\n<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">\n',
    ` <metadata name="Title">${escaped(title)}</metadata>\n <resources>\n`,
  ];
  const finishes = pieces
    .flatMap(({ mesh }) => mesh.finishes)
    .filter(({ id }, i, all) => all.findIndex((other) => other.id === id) === i);
  out.push('  <basematerials id="1">\n');
  for (const { name, colour } of finishes)
    out.push(`   <base name="${escaped(name)}" displaycolor="${colour.toUpperCase()}FF"/>\n`);
  out.push('  </basematerials>\n');
  pieces.forEach(({ name, mesh: { mesh, wears, finishes: own } }, i) => {
    const { positions: p, triangles } = mesh;
    const materials = own.map(({ id }) => finishes.findIndex((finish) => finish.id === id));
    out.push(`  <object id="${i + 2}" type="model" name="${escaped(name)}" pid="1" pindex="0">\n   <mesh>\n    <vertices>\n`);
    for (let v = 0; v < p.length; v += 3)
      out.push(`     <vertex x="${figure(p[v])}" y="${figure(p[v + 1])}" z="${figure(p[v + 2])}"/>\n`);
    out.push('    </vertices>\n    <triangles>\n');
    for (let f = 0; f < wears.length; f++)
      out.push(
        `     <triangle v1="${triangles[3 * f]}" v2="${triangles[3 * f + 1]}" v3="${triangles[3 * f + 2]}" pid="1" p1="${materials[wears[f]]}"/>\n`,
      );
    out.push('    </triangles>\n   </mesh>\n  </object>\n');
  });
  out.push(' </resources>\n <build>\n', ...pieces.map((_, i) => `  <item objectid="${i + 2}"/>\n`), ' </build>\n</model>\n');
  const options = { mtime: date } as const;
  return zipSync({
    '[Content_Types].xml': [strToU8(CONTENT_TYPES), options],
    '_rels/.rels': [strToU8(RELATIONS), options],
    '3D/3dmodel.model': [strToU8(out.join('')), options],
  });
}

const figure = (value: number): string => String(Number(value.toFixed(DECIMALS)));
