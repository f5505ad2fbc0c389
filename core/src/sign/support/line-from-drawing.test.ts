import { describe, expect, it } from '@jest/globals';
import { Random } from '../../../testing/random.js';
import { type FlatPath, flatten, readPathData, squareToSegment } from '../../geometry/index.js';
import { bendAlong, lineLengths, newSign } from '../index.js';
import { type ArcLinePiece, lengthOf, pointsAlong } from './arc-line.js';
import { type DrawnLinePieces, LineError, lineFromDrawing } from './line-from-drawing.js';

const drawn = (path: string, tolerance = 0.005): FlatPath[] => flatten(readPathData(path), tolerance);

/** Pieces as they are bent, drawn anew from a place and a direction. */
function drawnAnew({ pieces }: DrawnLinePieces, from: readonly [number, number], heading: number): Float64Array {
  const asTurned = pieces.map((piece): ArcLinePiece =>
    piece.kind === 'straight' ? piece : { ...piece, turns: piece.bends === 'away' ? 'left' : 'right' },
  );
  return pointsAlong({ from, heading, pieces: asTurned }, 0.5);
}

/** mm that points are from a line at most. */
function off(points: Float64Array, line: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < points.length; i += 2) {
    let least = Infinity;
    for (let k = 2; k < line.length; k += 2)
      least = Math.min(least, squareToSegment(line[k - 2], line[k - 1], line[k], line[k + 1], points[i], points[i + 1]));
    most = Math.max(most, least);
  }
  return Math.sqrt(most);
}

describe('a line from a drawing', () => {
  it('is the straight pieces and arcs that were drawn, with their lengths, radii and angles', () => {
    // A desk from above: 300 straight, a quarter of 120 forwards … drawn from right to left, as SVG’s arcs.
    const found = lineFromDrawing(drawn('M 500 0 L 200 0 A 120 120 0 0 1 80 -120 L 80 -300'), 5);
    expect(found.isOutline).toBe(false);
    expect(found.pieces.map(({ kind }) => kind)).toEqual(['straight', 'arc', 'straight']);
    const [up, bend, along] = found.pieces;
    expect(up).toMatchObject({ length: 180 });
    expect(along).toMatchObject({ length: 300 });
    expect(bend).toMatchObject({ bends: 'towards' });
    if (bend.kind === 'arc') expect([Math.abs(bend.radius - 120) < 0.02, Math.abs(bend.angle - 90) < 0.01]).toEqual([true, true]);
    expect(found.length).toBeCloseTo(480 + 60 * Math.PI, 2);
    expect(found.off).toBeLessThan(0.05);
  });

  it('bends away from the reader where it comes forward in its middle, and an outline is opened behind', () => {
    const bow = lineFromDrawing(drawn('M -200 0 A 400 400 0 0 1 200 0'), 5);
    // With y up an arc of sweep 1 is anticlockwise: the bow hangs towards the reader.
    expect(bow.pieces).toMatchObject([{ kind: 'arc', bends: 'away' }]);
    const round = lineFromDrawing(drawn('M 100 0 A 100 100 0 1 0 -100 0 A 100 100 0 1 0 100 0 Z M 0 0 L 40 0 L 0 40 Z'), 5);
    expect([round.isOutline, round.length]).toEqual([true, expect.closeTo(200 * Math.PI, 1)]);
    const turned = round.pieces.reduce((sum, piece) => sum + (piece.kind === 'arc' ? piece.angle : 0), 0);
    expect(turned).toBeCloseTo(360, 1);
    expect(round.pieces.every((piece) => piece.kind === 'arc' && piece.bends === 'away')).toBe(true);
  });

  it('is as long as half an ellipse by its complete integral (Abramowitz and Stegun, table 17.1), from Bézier curves', () => {
    // Two cubic quarters with the usual 0.5522847498, off an ellipse by 0.03 % of its axes.
    const [a, b, k] = [600, 600 * Math.SQRT1_2, 0.5522847498];
    const path = `M ${-a} 0 C ${-a} ${-b * k} ${-a * k} ${-b} 0 ${-b} C ${a * k} ${-b} ${a} ${-b * k} ${a} 0`;
    const found = lineFromDrawing(drawn(path), 5);
    expect(found.length / (2 * a * 1.350643881)).toBeCloseTo(1, 3);
    expect(found.off).toBeLessThan(0.05);
    expect(found.pieces.length).toBeLessThan(30);
  });

  it('rounds corners by the radius that is asked for, and by less where there is no room', () => {
    const box = lineFromDrawing(drawn('M 0 0 L 100 0 L 100 80 L 100.5 80'), 10);
    const arcs = box.pieces.flatMap((piece) => (piece.kind === 'arc' ? [piece] : []));
    expect(arcs.map(({ radius, angle, bends }) => [Math.round(radius * 100) / 100, Math.round(angle * 100) / 100, bends])).toEqual([[10, 90, 'away'], [0.25, 90, 'towards']]); // prettier-ignore
    expect(box.length).toBeCloseTo(100 + 80 + 0.5 - (2 - Math.PI / 2) * (10 + 0.245), 2);
  });

  it('stays on what was drawn, whatever that is', () => {
    const random = new Random(3);
    for (let n = 0; n < 60; n++) {
      const pieces = Array.from({ length: random.whole(1, 9) }, (): ArcLinePiece =>
        random.chance(0.4)
          ? { kind: 'straight', length: random.between(20, 300) }
          : {
              kind: 'arc',
              radius: random.between(20, 500),
              angle: random.between(5, 100),
              turns: random.chance(0.5) ? 'left' : 'right',
            },
      );
      // Chords as a drawing’s curves are flattened: 0.005 mm off each arc.
      let at: readonly [number, number] = [0, 0];
      let heading = 0;
      const points: number[] = [0, 0];
      for (const piece of pieces) {
        const most = piece.kind === 'straight' ? Infinity : Math.sqrt(8 * piece.radius * 0.005);
        const run = pointsAlong({ from: at, heading, pieces: [piece] }, most);
        points.push(...run.subarray(2));
        at = [run[run.length - 2], run[run.length - 1]];
        if (piece.kind === 'arc') heading += ((piece.turns === 'left' ? 1 : -1) * piece.angle * Math.PI) / 180;
      }
      if (points[points.length - 2] < 0) continue;
      const found = lineFromDrawing([{ points, closed: false }], 5);
      const total = pieces.reduce((sum, piece) => sum + lengthOf(piece), 0);
      expect(found.off).toBeLessThan(0.12);
      expect(found.length / total).toBeCloseTo(1, 3);
      expect(found.pieces.length).toBeLessThanOrEqual(60);
      // Judged by drawing it anew.
      expect(off(drawnAnew(found, [0, 0], 0), points)).toBeLessThan(0.25);
    }
  });

  it('is refused where there is none, and where it has too many bends', () => {
    expect(() => lineFromDrawing([], 5)).toThrow(LineError);
    expect(() => lineFromDrawing(drawn('M 0 0 L 0.5 0'), 5)).toThrow(/no line of a millimetre/u);
    const comb = Array.from({ length: 90 }, (_, i) => `L ${5 * i} ${i % 2 === 0 ? 40 : 0}`).join(' ');
    expect(() => lineFromDrawing(drawn(`M -5 0 ${comb}`), 1)).toThrow(/more than 60 bends/u);
  });

  it('bends the sign: a sheet with its inside radii and as long as its line, anything else no longer than it', () => {
    const { pieces, length } = lineFromDrawing(drawn('M -100 0 A 150 150 0 0 1 100 0'), 5);
    const sheet = newSign('Sheet', 'mm');
    sheet.support = { kind: 'bent', pieces: [{ kind: 'straight', length: 10 }], neutral: 50 };
    sheet.blank.thickness = 4;
    bendAlong(sheet, pieces);
    expect(sheet.support).toMatchObject({ pieces: [{ kind: 'arc', radius: expect.closeTo(146, 1), bends: 'away' }] });
    // The layer in the middle of the thickness keeps its length.
    const width = sheet.blank.outline.kind === 'rectangle' ? sheet.blank.outline.width : 0;
    expect(width).toBeCloseTo((length * 148) / 150, 1);
    const desk = newSign('Desk', 'mm');
    bendAlong(desk, pieces);
    expect(desk.support?.kind).toBe('swept');
    expect(desk.blank.outline).toMatchObject({ width: expect.closeTo(Math.min(300, lineLengths(desk.support!, 12).line!), 6) });
    sheet.blank.thickness = 200;
    expect(() => bendAlong(sheet, pieces)).toThrow(/radius of 1(?:49|50)[.\d]* mm, and a sheet 200 mm thick/u);
  });
});
