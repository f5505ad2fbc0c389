import { describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import { strFromU8, unzipSync } from 'fflate';
import { SaxesParser } from 'saxes';
import { type BufferGeometry, type Mesh as ThreeMesh, type MeshStandardMaterial, type Object3D } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { pictureSize, reliefPicture } from '../picture/index.js';
import { type Evaluation } from '../relief/index.js';
import { finishNamed, lightReflectance, readSign, type Sign } from '../sign/index.js';
import { isWatertight, piecesOf, volume } from '../mesh/index.js';
import { coloured, figuresOf, solidOf } from '../solid/index.js';
import { manifoldOf } from '../../testing/referee.js';
import { addShape, addText, bareSign, demoSigns } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { glbFile } from './glb.js';
import { threeMfFile } from './three-mf.js';

const workshop = new Workshop();
const evaluate = (sign: Sign): Evaluation => workshop.evaluate(sign);
const DATE = new Date('2026-11-25T12:00:00Z');

/** A white word with red sides on a blue plate, and a loose disc in a hole. */
function finishedSign(): Sign {
  const sign = bareSign(120, 60, 10);
  sign.finishes = [
    { id: 'blue', name: 'deep <blue>', colour: '#2d4c6b', gloss: 'satin' },
    { id: 'white', name: 'white', colour: '#f4f3ee', gloss: 'gloss' },
    { id: 'red', name: 'red', colour: '#a5281f', gloss: 'metal' },
  ];
  sign.blank.finish = { face: 'blue' };
  addText(sign, 'Ab', 'lora-bold', 20, { kind: 'raise', by: 3 });
  sign.parts[0].tiers[0].finish = { top: 'white', sides: 'red' };
  addShape(sign, [20, 20], { kind: 'cut-through' }, { x: 45 });
  Object.assign(sign.parts[1], { shape: { kind: 'border', of: 'blank', inset: 4, width: 1 } });
  return sign;
}

interface ReadModel {
  unit: string;
  materials: { name: string; colour: string }[];
  objects: { positions: number[]; triangles: number[]; materials: number[] }[];
  items: string[];
}

/** A 3MF package read by a general XML reader. */
function read3mf(bytes: Uint8Array): ReadModel {
  const entries = unzipSync(bytes);
  expect(Object.keys(entries)).toEqual(['[Content_Types].xml', '_rels/.rels', '3D/3dmodel.model']);
  const model: ReadModel = { unit: '', materials: [], objects: [], items: [] };
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', ({ name, attributes: a }) => {
    const object = model.objects[model.objects.length - 1];
    if (name === 'model') model.unit = a.unit;
    if (name === 'base') model.materials.push({ name: a.name, colour: a.displaycolor });
    if (name === 'object') model.objects.push({ positions: [], triangles: [], materials: [] });
    if (name === 'vertex') object.positions.push(Number(a.x), Number(a.y), Number(a.z));
    if (name === 'triangle') {
      object.triangles.push(Number(a.v1), Number(a.v2), Number(a.v3));
      object.materials.push(Number(a.p1));
    }
    if (name === 'item') model.items.push(a.objectid);
  });
  parser.write(strFromU8(entries['3D/3dmodel.model'])).close();
  return model;
}

describe('3MF', () => {
  it('holds every piece as a closed object in millimetres, its triangles with their finishes', () => {
    const evaluation = evaluate(finishedSign());
    const mesh = solidOf(evaluation);
    const pieces = piecesOf(mesh).map((piece, i) => ({ name: `piece ${i + 1}`, mesh: coloured(evaluation, piece) }));
    expect(pieces).toHaveLength(2);
    const bytes = threeMfFile(pieces, 'Test & <sign>', DATE);
    const model = read3mf(bytes);
    expect([model.unit, model.objects.length, model.items]).toEqual(['millimeter', 2, ['2', '3']]);
    expect(model.materials.find(({ name }) => name === 'deep <blue>')?.colour).toBe('#2D4C6BFF');
    let sum = 0;
    for (const { positions, triangles, materials } of model.objects) {
      const solid = manifoldOf(workshop.m, { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) });
      expect(solid.status()).toBe('NoError');
      expect(materials.every((material) => model.materials[material] !== undefined)).toBe(true);
      sum += solid.volume();
    }
    expect(Math.abs(sum / volume(mesh) - 1)).toBeLessThan(1e-6);
    expect(threeMfFile(pieces, 'Test & <sign>', DATE)).toEqual(bytes);
  });
});

describe('GLB', () => {
  it('is read back by three in metres with the colours and gloss of its finishes', async () => {
    const evaluation = evaluate(finishedSign());
    const mesh = solidOf(evaluation);
    const bytes = glbFile(coloured(evaluation, mesh), 'Test');
    const { scene } = await new GLTFLoader().parseAsync(bytes.slice().buffer as ArrayBuffer, '');
    const found: ThreeMesh[] = [];
    scene.traverse((object: Object3D) => {
      if ('geometry' in object) found.push(object as ThreeMesh);
    });
    const materials = found.map(({ material }) => material as MeshStandardMaterial);
    expect(materials.map(({ name }) => name).sort()).toEqual(['bare material', 'deep <blue>', 'red', 'white']);
    const red = materials.find(({ name }) => name === 'red')!;
    expect([red.metalness, `#${red.color.getHexString()}`]).toEqual([1, '#a5281f']);
    let six = 0;
    for (const { geometry } of found) {
      const { array } = (geometry as BufferGeometry).getAttribute('position');
      for (let i = 0; i < array.length; i += 9) {
        const [a, b, c] = [0, 3, 6].map((k) => [array[i + k], array[i + k + 1], array[i + k + 2]]);
        six += a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
      }
    }
    expect(Math.abs((six / 6) * 1e9 - volume(mesh)) / volume(mesh)).toBeLessThan(1e-4);
  });
});

describe('finishes', () => {
  it('are measured by tops and sides', () => {
    const sign = bareSign(100, 60, 10);
    sign.finishes = finishedSign().finishes;
    sign.blank.finish = { face: 'blue' };
    addShape(sign, [20, 10], { kind: 'raise', by: 4 });
    sign.parts[0].tiers[0].finish = { top: 'white', sides: 'red' };
    addShape(sign, [10, 10], { kind: 'carve', by: 2 }, { x: 30 });
    const evaluation = evaluate(sign);
    const { areas, removedMm3, volumeMm3 } = figuresOf(evaluation, solidOf(evaluation));
    const of = (name: string) => {
      const { topMm2, sidesMm2 } = areas.find(({ finish }) => finish.name === name)!;
      return [Math.round(topMm2 * 1e3) / 1e3, Math.round(sidesMm2 * 1e3) / 1e3];
    };
    expect(of('white')).toEqual([200, 0]);
    expect(of('red')).toEqual([0, 240]);
    expect(of('deep <blue>')).toEqual([6000 - 300, 0]);
    // The floor of the pocket, its walls (those of the face), and the edge of the blank.
    expect(of('bare material')).toEqual([100, 3200 + 80]);
    expect(removedMm3).toBeCloseTo(200, 6);
    expect(volumeMm3).toBeCloseTo(60_000 + 800 - 200, 6);
  });

  it('cover of upright sides what their own tier made, also where several stand over one edge', () => {
    const sign = bareSign(100, 60, 10);
    sign.finishes = finishedSign().finishes;
    sign.blank.finish = { sides: 'blue' };
    // A rim at the very edge, 5 wide and 3 high, and on its left half a block as high again.
    addShape(sign, [100, 60], { kind: 'raise', by: 3 });
    addShape(sign, [90, 50], { kind: 'set', to: 0 });
    addShape(sign, [50, 60], { kind: 'set', to: 6 }, { x: -25 });
    addShape(sign, [10, 10], { kind: 'carve', by: 4 }, { x: 45 });
    const [rim, , block, pocket] = sign.parts.map(({ tiers }) => tiers[0]);
    rim.finish = { sides: 'red' };
    block.finish = { sides: 'white' };
    pocket.finish = { sides: 'red' };
    const evaluation = evaluate(sign);
    const solid = solidOf(evaluation);
    expect(isWatertight(solid)).toBe(true);
    const { areas } = figuresOf(evaluation, solid);
    const of = (name: string) => areas.find(({ finish }) => finish.name === name)!.sidesMm2;
    // The blank's edge where it is 10 high, but for 10 mm of it where the pocket opens to it 4 deep.
    expect(of('deep <blue>')).toBeCloseTo(320 * 10 - 10 * 4, 6);
    // The block stands on the rim at the edge and beside it, and on the face between.
    expect(of('white')).toBeCloseTo((50 + 60 + 50) * 3 + 2 * 5 * 3 + 50 * 6, 6);
    // The rim under the block too, from outside, and the pocket from what it found to its floor; within the rim are the walls of what was sunk.
    expect(of('red')).toBeCloseTo((320 - 10) * 3 + (10 + 5 + 5) * 4 + (5 + 5) * 7, 6);
    expect(of('bare material')).toBeCloseTo((45 + 45 + 50 - 10) * 3, 6);
  });

  it('mark a place without changing its height, and show the core where a laminate is engraved', () => {
    const sign = bareSign(100, 60, 2);
    sign.blank.laminate = { cap: 0.2, capColour: 'white', coreColour: 'black' };
    sign.finishes = finishedSign().finishes;
    addShape(sign, [20, 10], { kind: 'mark' });
    sign.parts[0].tiers[0].finish = { top: 'red' };
    addShape(sign, [20, 10], { kind: 'carve', by: 0.4 }, { x: 30 });
    const evaluation = evaluate(sign);
    expect(evaluation.levels.map(({ z, areaMm2 }) => [z, areaMm2])).toEqual([
      [0, 5800],
      [-0.4, 200],
    ]);
    const { areas } = figuresOf(evaluation, solidOf(evaluation));
    const tops = Object.fromEntries(areas.map(({ finish, topMm2 }) => [finish.name, Math.round(topMm2)]));
    expect(tops).toMatchObject({ red: 200, white: 5600, black: 200 });
    expect(notesOf(evaluation)).toEqual([]);
  });

  it('of a pocket’s walls are those of its tier, of a letter’s those of its own; a mark colours tops and no sides', () => {
    const sign = bareSign(100, 60, 10);
    sign.finishes = finishedSign().finishes;
    sign.blank.finish = { face: 'blue', sides: 'blue' };
    addShape(sign, [60, 40], { kind: 'carve', by: 4 });
    sign.parts[0].tiers[0].finish = { sides: 'red' };
    addShape(sign, [20, 10], { kind: 'raise', by: 3 });
    sign.parts[1].tiers[0].finish = { top: 'white', sides: 'white' };
    addShape(sign, [90, 50], { kind: 'mark' });
    sign.parts[2].tiers[0].finish = { top: 'red' };
    const evaluation = evaluate(sign);
    const { areas } = figuresOf(evaluation, solidOf(evaluation));
    const of = (name: string) => {
      const found = areas.find(({ finish }) => finish.name === name);
      return [Math.round(found?.topMm2 ?? 0), Math.round(found?.sidesMm2 ?? 0)];
    };
    // The pocket’s walls are 200 mm long and 4 mm high, the letter’s 60 mm and, from the pocket’s floor, 7 mm.
    expect(of('red')).toEqual([90 * 50, 800]);
    expect(of('white')).toEqual([0, 420]);
    expect(of('deep <blue>')).toEqual([6000 - 4500, 3200]);
  });

  it('tell the painted face from what was brought to its level', () => {
    const sign = bareSign(100, 60, 10);
    sign.finishes = finishedSign().finishes;
    sign.blank.finish = { face: 'blue' };
    addShape(sign, [60, 40], { kind: 'carve', by: 4 });
    addShape(sign, [20, 10], { kind: 'set', to: 0 });
    const evaluation = evaluate(sign);
    expect(evaluation.levels.map(({ z, areaMm2, labels }) => [z, areaMm2, labels.length])).toEqual([
      [0, 6000 - 2400 + 200, 2],
      [-4, 2200, 1],
    ]);
    const { areas } = figuresOf(evaluation, solidOf(evaluation));
    expect(areas.find(({ finish }) => finish.id === 'blue')?.topMm2).toBeCloseTo(3600, 6);
  });

  it('know how much light they throw back', () => {
    // WCAG 2: white has the relative luminance 1, black 0; #777777 about 0.184.
    expect(lightReflectance('#ffffff')).toBeCloseTo(100, 9);
    expect(lightReflectance('#000000')).toBe(0);
    expect(lightReflectance('#777777')).toBeCloseTo(18.4, 1);
    expect(finishNamed('Rebeccapurple').colour).toBe('#663399');
    expect(finishNamed('no such colour').colour).toBe('#e4ddcd');
  });
});

describe('the relief picture', () => {
  it('is lit from the upper left: slopes that look there are lighter, and what stands throws its shadow to the lower right', () => {
    const sign = bareSign(100, 100, 10);
    addShape(sign, [40, 40], { kind: 'raise', by: 10 });
    const evaluation = evaluate(sign);
    const solid = coloured(evaluation, solidOf(evaluation));
    expect(pictureSize(evaluation, 200)).toEqual({ width: 200, height: 200 });
    const { rgba, width } = reliefPicture(solid, 200, 200);
    const brightness = (x: number, y: number) => rgba[4 * (y * width + x)];
    // 20 mm of the block are 40 pixels; just below and right of it lies its shadow.
    expect(brightness(145, 145)).toBeLessThan(brightness(55, 55) - 40);
    expect(brightness(100, 100)).toBe(brightness(20, 20));
    const sloped = bareSign(100, 100, 20);
    addShape(sloped, [80, 80], { kind: 'raise', by: 1 });
    sloped.parts[0].tiers[0].edge = { kind: 'ridged', angle: 120, capped: false };
    const hill = evaluate(sloped);
    const lit = reliefPicture(coloured(hill, solidOf(hill)), 200, 200);
    const at = (x: number, y: number) => lit.rgba[4 * (y * 200 + x)];
    expect(at(60, 100)).toBeGreaterThan(at(140, 100));
    expect(at(100, 60)).toBeGreaterThan(at(100, 140));
  });

  const few = demoSigns().filter(([name]) =>
    ['keyring.sign.json', 'hollow-letters.sign.json', 'tree-label.sign.json'].includes(name),
  );
  it.each(few)('leaves nothing of %s out, and is clear outside', (_, document) => {
    const evaluation = evaluate(readSign(document));
    const { width, height } = pictureSize(evaluation, 160);
    const { rgba } = reliefPicture(coloured(evaluation, solidOf(evaluation)), width, height);
    let covered = 0;
    for (let i = 3; i < rgba.length; i += 4) covered += rgba[i] / 255;
    const material = evaluation.places.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
    const { maxX, minX } = boundsOf(evaluation);
    const scale = width / (maxX - minX);
    expect(Math.abs(covered / (material * scale * scale) - 1)).toBeLessThan(0.02);
  });
});

function boundsOf({ blank }: Evaluation): { minX: number; maxX: number } {
  const xs = blank.filter((_, i) => i % 2 === 0);
  return { minX: Math.min(...xs), maxX: Math.max(...xs) };
}
