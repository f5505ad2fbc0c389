import { Colors, DxfWriter, LWPolylineFlags, point3d, Units } from '@tarikjabiri/dxf';
import { type Drawing } from '../drawing/index.js';
import { type LengthUnit, MM_PER_INCH } from '../units/index.js';

/** Layer names may not hold < > / \ " : ; ? * | = and quotes (DXF reference, symbol table names, from memory). */
const layerName = (layer: string): string =>
  layer
    .replace(/[<>/\\":;?*|=`',]/gu, '_')
    .replace(/\s+/gu, '_')
    .toUpperCase();

const COLOURS = [Colors.White, Colors.Red, Colors.Blue, Colors.Green, Colors.Magenta, Colors.Cyan, Colors.Yellow];

/**
 * The rings and runs of a drawing as a DXF file: LWPOLYLINE entities, one layer for each of the drawing's, $INSUNITS 4
 * (millimetres) or 1 (inches) with the coordinates in that unit. Fills and labels are left out.
 */
export function dxfFile(drawing: Drawing, unit: LengthUnit): string {
  const per = unit === 'mm' ? 1 : MM_PER_INCH;
  const dxf = new DxfWriter();
  dxf.setUnits(unit === 'mm' ? Units.Millimeters : Units.Inches);
  dxf.setVariable('$MEASUREMENT', { 70: unit === 'mm' ? 1 : 0 });
  const { minX, minY, maxX, maxY } = drawing.bounds;
  dxf.setVariable('$EXTMIN', { 10: minX / per, 20: minY / per, 30: 0 });
  dxf.setVariable('$EXTMAX', { 10: maxX / per, 20: maxY / per, 30: 0 });
  const known = new Set<string>();
  const polyline = (layer: string, points: Float64Array, closed: boolean) => {
    const name = layerName(layer);
    if (!known.has(name)) {
      dxf.addLayer(name, COLOURS[known.size % COLOURS.length], 'Continuous');
      known.add(name);
    }
    const vertices = Array.from({ length: points.length / 2 }, (_, i) => ({
      point: point3d(points[2 * i] / per, points[2 * i + 1] / per, 0),
    }));
    dxf.addLWPolyline(vertices, { layerName: name, flags: closed ? LWPolylineFlags.Closed : LWPolylineFlags.None });
  };
  for (const item of drawing.items) {
    if (item.kind === 'area') for (const contour of item.outline) polyline(item.layer, contour, true);
    else if (item.kind === 'line') polyline(item.layer, item.points, item.closed);
  }
  return dxf.stringify();
}
