import { describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import { offset } from '../arrangement/index.js';
import { area, circle, type Contour } from '../geometry/index.js';
import { productionOutlines } from '../drawing/index.js';
import { type Evaluation, mirroredRing } from '../relief/index.js';
import { type Action, type Edge, type Sign, type TextPart } from '../sign/index.js';
import { crossSection, manifoldOf } from '../../testing/referee.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { isWatertight, meshBounds, piecesOf, volume } from '../mesh/index.js';
import { figuresOf } from './appearance.js';
import { namedPieces } from './named-pieces.js';
import { solidOf } from './solid.js';

const workshop = new Workshop();

/** Evaluates a sign from one side, with its solid. */
function solid(sign: Sign, side: 'front' | 'back' = 'front') {
  const evaluation = workshop.evaluate(sign, side);
  return { evaluation, ...workshop.soundSolid(evaluation) };
}

const codes = (evaluation: Evaluation): string[] => notesOf(evaluation).map(({ code }) => code);

/** Turns the last part over to the back. */
function onBack(sign: Sign): Sign {
  sign.parts[sign.parts.length - 1].side = 'back';
  return sign;
}

const CARVE = (by: number): Action => ({ kind: 'carve', by });

describe('two sides', () => {
  it('pockets of both sides take their volumes, and are seen alike from either side', () => {
    const sign = bareSign(100, 60, 12);
    addShape(sign, [40, 20], CARVE(3));
    addShape(sign, [30, 20], CARVE(4), { x: 10, y: 5 });
    onBack(sign);
    const front = solid(sign);
    expect(front.mm3).toBeCloseTo(100 * 60 * 12 - 40 * 20 * 3 - 30 * 20 * 4, 6);
    expect(front.evaluation.thinnest).toBeCloseTo(5, 9);
    const back = solid(sign, 'back');
    expect(back.mm3).toBeCloseTo(front.mm3, 6);
    // From behind, the pocket of the back is the one that is carved from the face.
    expect(back.evaluation.levels.map(({ z }) => z)).toEqual([0, -4]);
    const floor = back.evaluation.levels[1];
    expect(floor.areaMm2).toBeCloseTo(600, 6);
  });

  it('a part of the back is read from behind: it lies mirrored in the plan of the front', () => {
    const sign = bareSign(200, 60, 10);
    const text = addText(sign, 'LFR', 'cinzel-bold', 25, CARVE(2));
    text.place = { x: 30, y: 4, turn: 0, mirror: false };
    onBack(sign);
    const { mesh, evaluation } = solid(sign);
    const letters = evaluation.parts[0].area.contours;
    // Built the long way round: the letters mirrored, as a block taken from the back.
    const { m } = workshop;
    const block = m.Manifold.extrude(crossSection(m, letters.map(mirroredRing)), 2).translate([0, 0, -10]);
    const plate = m.Manifold.cube([200, 60, 10]).translate([-100, -30, -10]);
    const long = plate.subtract(block);
    const difference = manifoldOf(m, mesh).subtract(long).volume() + long.subtract(manifoldOf(m, mesh)).volume();
    expect(difference).toBeLessThan(0.01);
  });

  it('depths that meet leave a hole, and a note says whose they are', () => {
    const sign = bareSign(100, 60, 12);
    addShape(sign, [40, 20], CARVE(8));
    addShape(sign, [40, 20], CARVE(6), { x: -10, y: 5 });
    onBack(sign);
    const { mm3, evaluation } = solid(sign);
    const both = 30 * 15;
    expect(mm3).toBeCloseTo(100 * 60 * 12 - (800 - both) * 8 - (800 - both) * 6 - both * 12, 6);
    const told = notesOf(evaluation).find(({ code }) => code === 'depths-meet');
    expect(told?.text).toContain('part-1 and part-2 on the back meet');
  });

  it('slopes of both sides: a vee in front over a sloped letter behind, the same from either side', () => {
    const sign = bareSign(160, 60, 12);
    addText(sign, 'LFR', 'cinzel-bold', 25, CARVE(2));
    const vee: Edge = { kind: 'ridged', angle: 90, capped: false };
    sign.parts[0].tiers[0].edge = vee;
    const alone = solid(sign).mm3;
    addText(sign, 'GAB', 'cinzel-bold', 25, { kind: 'raise', by: 3 });
    sign.parts[1].tiers[0].edge = { kind: 'sloped', angle: 10, sized: 'foot' };
    onBack(sign);
    const [front, back] = [solid(sign, 'front'), solid(sign, 'back')];
    expect(Math.abs(front.mm3 - back.mm3)).toBeLessThan(0.02);
    const raised = bareSign(160, 60, 12);
    raised.parts.push({ ...sign.parts[1], side: undefined });
    // What is taken in front and what stands behind have nothing to do with each other.
    expect(Math.abs(front.mm3 - (alone + solid(raised).mm3 - 160 * 60 * 12))).toBeLessThan(0.05);
    expect(codes(front.evaluation)).not.toContain('depths-meet');
  });

  it('a vee that comes through the floor of a pocket behind opens it where it is deeper than that floor', () => {
    const sign = bareSign(60, 60, 6);
    addShape(sign, [20, 20], CARVE(1));
    sign.parts[0].tiers[0].edge = { kind: 'ridged', angle: 90, capped: false };
    addShape(sign, [40, 40], CARVE(2));
    onBack(sign);
    const { mm3, evaluation } = solid(sign);
    // A pyramid 10 deep, of which 4 are in the floor: its lower part, 12 wide, is open.
    const frustum = (4 / 3) * (400 + 144 + Math.sqrt(400 * 144));
    expect(Math.abs(mm3 - (60 * 60 * 6 - 40 * 40 * 2 - frustum))).toBeLessThan(0.01);
    expect(codes(evaluation)).toContain('depths-meet');
  });

  it('both edges of a blank have their forms', () => {
    const sign = bareSign(100, 60, 12);
    sign.blank.edge = { kind: 'chamfered', width: 2, height: 2 };
    sign.blank.backEdge = { kind: 'chamfered', width: 3, height: 3 };
    // A frustum of a rectangle, by the prismatoid formula (textbook).
    const prismatoid = (h: number, w: number) => (h / 6) * (100 * 60 + 4 * (100 - w) * (60 - w) + (100 - 2 * w) * (60 - 2 * w));
    const { mm3 } = solid(sign);
    expect(Math.abs(mm3 - (100 * 60 * 7 + prismatoid(2, 2) + prismatoid(3, 3)))).toBeLessThan(0.02);
  });

  it('a laminate with a cap on both sides shows its core between them', () => {
    const sign = bareSign(100, 60, 3);
    sign.blank.laminate = { cap: 0.2, capColour: 'white', coreColour: 'black', bothSides: true };
    addShape(sign, [40, 20], CARVE(0.5));
    const { evaluation, mesh } = solid(sign);
    const top = (name: string) => figuresOf(evaluation, mesh).areas.find(({ finish }) => finish.name === name)?.topMm2;
    expect(top('black')).toBeCloseTo(800, 3);
    addShape(sign, [10, 10], CARVE(2.9));
    const deep = solid(sign);
    // Through the core it comes to the cap of the back.
    const white = figuresOf(deep.evaluation, deep.mesh).areas.find(({ finish }) => finish.name === 'white');
    expect(white?.topMm2).toBeCloseTo(100 * 60 - 800 + 100, 3);
  });
});

describe('flat-cut letters', () => {
  function letters(words = 'QUILL'): { sign: Sign; text: TextPart; outline: readonly Contour[] } {
    const sign = bareSign(300, 60, 10);
    const text = addText(sign, words, 'cinzel-bold', 25, { kind: 'raise', by: 2 });
    text.tiers = [];
    sign.blank.cutTo = { parts: [text.id] };
    return { sign, text, outline: workshop.evaluate(sign).parts[0].area.contours };
  }

  it('are what the sheet is cut to, each a piece, and are told to be loose', () => {
    const { sign, outline } = letters();
    const { mm3, mesh, evaluation } = solid(sign);
    expect(mm3).toBeCloseTo(crossSection(workshop.m, outline).area() * 10, 2);
    expect(piecesOf(mesh)).toHaveLength(5);
    const loose = notesOf(evaluation).find(({ code }) => code === 'loose-letters');
    expect(loose).toMatchObject({ remedy: { kind: 'backer' } });
    expect(figuresOf(evaluation, mesh).removedMm3).toBeCloseTo(0, 2);
  });

  it('hollow backs keep walls and faces; studs stand in bosses and are blind', () => {
    const { sign, outline } = letters();
    sign.blank.cutTo!.hollow = { wall: 1, face: 2 };
    const full = area(outline);
    const inner = crossSection(workshop.m, outline).offset(-1, 'Round').area();
    expect(Math.abs(solid(sign).mm3 - (full * 10 - inner * 8))).toBeLessThan(0.002 * full * 10);
    sign.blank.cutTo = { parts: sign.blank.cutTo!.parts, studs: { diameter: 3, depth: 6, edge: 1, count: 3 } };
    const { mm3, mesh, evaluation } = solid(sign);
    const taken = full * 10 - mm3;
    const studs = taken / (area([circle(0, 0, 1.5)]) * 6);
    expect(Math.abs(studs - Math.round(studs))).toBeLessThan(0.1);
    expect(Math.round(studs)).toBe(15);
    expect(meshBounds(mesh).max[2]).toBe(0);
    expect(evaluation.thinnest).toBeCloseTo(4, 9);
  });

  it('no stud comes nearer to the edge than is allowed, and none to another than two diameters', () => {
    for (const [diameter, edge] of [
      [2, 1],
      [4, 0.5],
      [3, 2],
    ]) {
      const { sign, outline } = letters('QUILL Street');
      sign.blank.cutTo!.studs = { diameter, depth: 5, edge, count: 3 };
      const { layers } = workshop.evaluate(sign);
      const holes = layers.find(({ operation, isBehind }) => operation === 'carve' && isBehind)!.area.contours;
      const { m } = workshop;
      // All of every hole, grown by what must be left, lies within the letters.
      const room = crossSection(m, offset(holes, edge - 0.02)).subtract(crossSection(m, outline));
      expect(room.area()).toBeLessThan(0.01);
      expect(offset(holes, diameter / 2 - 0.01).filter((ring) => area([ring]) > 0)).toHaveLength(holes.length);
    }
    const { sign } = letters();
    sign.blank.cutTo!.studs = { diameter: 12, depth: 5, edge: 3, count: 2 };
    expect(notesOf(workshop.evaluate(sign)).find(({ code }) => code === 'few-studs')).toMatchObject({ weight: 'warning' });
  });

  it('a plate behind is the outline grown, filled and joined, or a bar; it says from which margin on it is one piece', () => {
    const { sign, outline } = letters();
    sign.blank.cutTo!.backer = { kind: 'grown', margin: 6, thickness: 3 };
    const { m } = workshop;
    const grown = crossSection(m, outline).offset(6, 'Round');
    const filled = grown.decompose().map((piece) => piece.toPolygons().map((ring) => [...ring]));
    const outer = new m.CrossSection(
      filled.flatMap((rings) => rings.slice(0, 1)),
      'NonZero',
    );
    const { mm3, mesh } = solid(sign);
    expect(piecesOf(mesh)).toHaveLength(1);
    expect(Math.abs(mm3 - (area(outline) * 10 + outer.area() * 3))).toBeLessThan(1.5);
    expect(solid(sign, 'back').mm3).toBeCloseTo(mm3, 3);

    sign.blank.cutTo!.backer = { kind: 'grown', margin: 0.2, thickness: 3 };
    const narrow = workshop.evaluate(sign);
    const joins = Number(/from ([\d.]+) mm on/u.exec(notesOf(narrow).find(({ code }) => code === 'backer-apart')!.text)![1]);
    expect(codes(narrow)).toContain('not-backed');
    for (const [margin, pieces] of [
      [joins + 0.02, 1],
      [joins - 0.05, 2],
    ] as const) {
      sign.blank.cutTo!.backer = { kind: 'grown', margin, thickness: 3 };
      expect(piecesOf(solid(sign).mesh).length > 1).toBe(pieces > 1);
    }

    sign.blank.cutTo!.backer = { kind: 'bar', y: 0, height: 10, thickness: 3 };
    const bar = solid(sign);
    expect(piecesOf(bar.mesh)).toHaveLength(1);
    const ink = bar.evaluation.parts[0].ink!;
    expect(bar.mm3).toBeCloseTo(area(outline) * 10 + (ink.maxX - ink.minX) * 10 * 3, 2);
  });

  it('refuse what cannot be: faces and studs as deep as the letters', () => {
    const { sign } = letters();
    sign.blank.cutTo = {
      ...sign.blank.cutTo!,
      hollow: { wall: 1, face: 12 },
      studs: { diameter: 3, depth: 12, edge: 1, count: 1 },
    };
    expect(codes(workshop.evaluate(sign))).toEqual(expect.arrayContaining(['hollow-face', 'stud-depth']));
  });
});

describe('windows with an insert', () => {
  it('are filled by a piece of another material, which is a solid of its own', () => {
    const sign = bareSign(160, 60, 12);
    addShape(sign, [60, 30], { kind: 'insert', below: 1, thickness: 3, material: 'acrylic' });
    const { mm3, evaluation, mesh } = solid(sign);
    expect(mm3).toBeCloseTo(160 * 60 * 12 - 60 * 30 * 9, 6);
    const { inserts, volumeMm3, removedMm3 } = figuresOf(evaluation, mesh);
    expect(inserts).toEqual([{ part: 'part-1', material: 'acrylic', volumeMm3: 60 * 30 * 3 }]);
    expect(volumeMm3).toBeCloseTo((160 * 60 - 60 * 30) * 12, 6);
    expect(removedMm3).toBeCloseTo(60 * 30 * 12, 6);
    const [insert, rest] = [solidOf(evaluation, 'inserts'), solidOf(evaluation, 'all but inserts')];
    expect(isWatertight(insert) && isWatertight(rest)).toBe(true);
    expect(meshBounds(insert)).toEqual({ min: [-30, -15, -4], max: [30, 15, -1] });
    expect(volume(rest)).toBeCloseTo(volumeMm3, 6);
  });

  it('stand apart from their windows by their clearance, and are named by part and material', () => {
    const sign = bareSign(160, 120, 12);
    sign.blank.material = 'Oak, oiled';
    const action = { kind: 'insert', below: 1, thickness: 3, material: 'Clear acrylic', clearance: 0.2 } as const;
    const id = addShape(sign, [60, 30], action);
    sign.parts.find((part) => part.id === id)!.name = 'Window';
    sign.parts.find((part) => part.id === id)!.copies = { kind: 'row', count: 2, stepX: 0, stepY: -40 };
    const { mesh, evaluation } = solid(sign);
    const [insert, ...others] = figuresOf(evaluation, mesh).inserts;
    expect([insert.part, insert.material, others]).toEqual([id, 'Clear acrylic', []]);
    expect(insert.volumeMm3).toBeCloseTo(2 * 59.6 * 29.6 * 3, 6);
    const pieces = namedPieces(evaluation);
    expect(pieces.map(({ name }) => name).sort()).toEqual([
      'blank-oak-oiled',
      'window-1-clear-acrylic',
      'window-2-clear-acrylic',
    ]);
    expect(pieces.every((piece) => isWatertight(piece.mesh))).toBe(true);
    const outlines = productionOutlines(evaluation).items.filter((item) => item.kind === 'area');
    const areaOf = (layer: string) => outlines.filter((item) => item.layer === layer).map(({ outline }) => area(outline));
    expect(areaOf('cut through')).toEqual([expect.closeTo(2 * 60 * 30, 6)]);
    expect(areaOf('insert Window Clear acrylic 3 mm')).toEqual([expect.closeTo(2 * 59.6 * 29.6, 6)]);
    expect(outlines.map(({ layer }) => layer)).toEqual(['blank edge', 'cut through', 'insert Window Clear acrylic 3 mm']);
  });

  it('are told apart from letters that keep their slopes to themselves, on the blank and on the insert', () => {
    const sign = bareSign(160, 80, 12);
    const insert = addShape(sign, [60, 30], { kind: 'insert', below: 1, thickness: 3, material: 'acrylic' }, { y: 15 });
    const [below, on] = [addText(sign, 'OAK', 'montserrat-bold', 12, { kind: 'raise', by: 1 }), addText(sign, 'IN', 'montserrat-bold', 12, { kind: 'raise', by: 1 })]; // prettier-ignore
    Object.assign(below, { id: 'below', place: { ...below.place, y: -25 } });
    Object.assign(on, { id: 'on', place: { ...on.place, y: 15 }, sitsOn: { kind: 'part', part: insert, at: 'top' } });
    for (const part of [below, on]) part.tiers[0].edge = { kind: 'sloped', angle: 20, sized: 'foot' };
    const { mm3, evaluation } = solid(sign);
    expect(evaluation.slopeMeshes.size).toBeGreaterThan(3);
    const [inserts, rest] = [solidOf(evaluation, 'inserts'), solidOf(evaluation, 'all but inserts')];
    expect(isWatertight(inserts) && isWatertight(rest)).toBe(true);
    expect(volume(inserts) + volume(rest)).toBeCloseTo(mm3, 4);
    const without = { ...sign, parts: sign.parts.filter(({ id }) => id === 'below') };
    const plain = workshop.evaluate(without);
    expect(solidOf(plain, 'inserts').triangles).toHaveLength(0);
    expect(volume(solidOf(plain, 'all but inserts'))).toBeCloseTo(volume(solidOf(plain)), 6);
  });
});
