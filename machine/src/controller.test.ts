import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { cutPlan, USUAL as USUAL_CUTS } from '@plain-relief/core/cutting';
import { programsOf } from '@plain-relief/core/gcode';
import { durationOf, readProgram } from '@plain-relief/core/program';
import { readShop } from '@plain-relief/core/shop';
import { Random } from '../../core/testing/random.js';
import { addShape, bareSign } from '../../core/testing/signs.js';
import { Workshop } from '../../core/testing/workshop.js';
import { Controller, Refusal } from './controller.js';
import { type Description, USUAL } from './description.js';

const workshop = new Workshop();
const FAST: Description = { ...USUAL, hasChanger: true, toolChange: 0 };
const HEAD = 'G21 G90 G17\nT1 M6\nM3 S12000\n';

/** A machine with a program in it. */
function machineWith(text: string, description: Description = FAST): Controller {
  const machine = new Controller();
  machine.be(description);
  machine.lay({ x: 200, y: 200, z: -60 });
  machine.home();
  machine.take('job-1', 'part.ngc', text);
  machine.rehearse(10_000);
  return machine;
}

/** Machine seconds that a program runs for, from the zero of its places on. */
function ran(text: string, description?: Description): number {
  const machine = machineWith(`G21 G90\nG0 X0 Y0 Z0\nM0\n${text}`, description);
  machine.run();
  while (machine.pass(1));
  const { state, seconds } = machine.report();
  expect(state).toBe('held');
  machine.go();
  while (machine.pass(1));
  expect(machine.report()).toMatchObject({ state: 'idle', job: { isDone: true } });
  return machine.report().seconds - seconds;
}

/** How long moves take, from rest to rest. */
const takes = (moves: string, description?: Description): number => ran(`${HEAD}${moves}\nM30\n`, description);

describe('the practice machine drives', () => {
  // Trapezoids: L/v + v/a where it comes up to speed, 2√(L/a) where it does not (uniformly accelerated motion).
  it.each([
    ['G1 X100 F6000', 100 / 100 + 100 / 500],
    ['G1 X10 F6000', 2 * Math.sqrt(10 / 500)],
    ['G1 X40 F1200', 40 / 20 + 20 / 500],
    ['G0 X300', 300 / (10_000 / 60) + 10_000 / 60 / 500],
    ['G1 X50 F3000\nG1 X100', 100 / 50 + 50 / 500],
    // No faster than the machine.
    ['G1 X100 F99999', 100 / 100 + 100 / 500],
  ])('%s as long as accelerations let it', (moves, seconds) => {
    expect(takes(moves) / seconds).toBeGreaterThan(0.98);
    expect(takes(moves) / seconds).toBeLessThan(1.02);
  });

  it('round a circle no faster than what holds it there, √(aR)', () => {
    // R = 2: √(500 · 2) = 31.6 mm/s, though 100 are asked.
    const way = 4 * Math.PI;
    const speed = Math.sqrt(500 * 2);
    expect(takes('G2 X0 Y0 I2 J0 F6000')).toBeCloseTo(way / speed + speed / 500, 1);
  });

  it('through corners as fast as rounding them lets it', () => {
    const straight = takes('G1 X60 F3000\nX120');
    const bent = takes('G1 X60 F3000\nY60');
    const back = takes('G1 X60 F3000\nX0');
    // √(a·δ·cos φ/(1 − cos φ)) at half a right angle: 4.9 mm/s, almost a stop.
    const corner = Math.sqrt((500 * 0.02 * Math.SQRT1_2) / (1 - Math.SQRT1_2));
    expect(bent - straight).toBeCloseTo((50 - corner) ** 2 / (500 * 50), 2);
    expect(back - straight).toBeCloseTo(50 / 500, 2);
  });

  it('as long as the estimate says, within 3 %, on ten programs', () => {
    const shop = readShop(JSON.parse(readFileSync(new URL('../../demo/shop.json', import.meta.url), 'utf8')));
    const sign = bareSign(80, 60, 8);
    addShape(sign, [60, 40], { kind: 'carve', by: 2.5 });
    addShape(sign, 24, { kind: 'raise', by: 2 });
    const tools = shop.tools.filter(({ id }) => ['end-6', 'end-3', 'ball-3'].includes(id));
    const plan = cutPlan(workshop.evaluate(sign), {
      ...USUAL_CUTS,
      machine: shop.machines[0],
      material: shop.materials[0],
      tools,
    });
    const texts = programsOf(plan, sign.title).map(({ text }) => text);
    for (let seed = 1; texts.length < 10; seed++) texts.push(wandering(seed));
    for (const [i, text] of texts.entries()) {
      const description = i % 2 === 0 ? FAST : { ...FAST, acceleration: 1500, deviation: 0.01, rapid: 15_000, mostFeed: 10_000 };
      const estimate = durationOf(readProgram(text), description).seconds;
      const share = ran(text, description) / estimate;
      expect(share).toBeGreaterThan(0.97);
      expect(share).toBeLessThan(1.03);
    }
  });
});

/** Lines, curves of short lines, arcs, and plunges, by a seed. */
function wandering(seed: number): string {
  const random = new Random(seed);
  let text = `${HEAD}G0 X0 Y0 Z3\nG1 Z-1 F300\nF${Math.round(random.between(600, 4000))}\n`;
  for (let i = 0; i < 60; i++) {
    const [x, y] = [random.between(0, 120).toFixed(3), random.between(0, 90).toFixed(3)];
    if (i % 3 === 0) text += `G1 X${x} Y${y}\n`;
    else if (i % 3 === 1) {
      const radius = random.between(2, 20).toFixed(3);
      text += `G2 I${radius} J0\n`;
    } else {
      text += 'G91\n';
      for (let k = 0; k < 30; k++) text += `G1 X${(0.4 * Math.cos(k / 5)).toFixed(3)} Y${(0.4 * Math.sin(k / 5)).toFixed(3)}\n`;
      text += 'G90\n';
    }
  }
  return `${text}G0 Z3\nM30\n`;
}

describe('whoever stands at the practice machine', () => {
  const LONG = `${HEAD}G0 X0 Y0 Z5\nG1 Z-1 F300\nG1 X100 F600\nG1 Y100\nG1 X0\nG0 Z5\nM30\n`;
  const slow = (): Controller => {
    const machine = machineWith(LONG);
    machine.rehearse(1);
    machine.run();
    return machine;
  };

  it('holds it and goes on, without losing a place', () => {
    const machine = slow();
    machine.pass(6);
    machine.hold();
    while (machine.pass(0.1));
    const held = machine.report();
    expect([held.state, held.why, held.pace]).toEqual(['held', 'held by hand', 0]);
    machine.pass(60);
    expect(machine.report()).toEqual(held);
    machine.go();
    while (machine.pass(1));
    expect(machine.report()).toMatchObject({ state: 'idle', job: { isDone: true } });
    expect(machine.report().place).toEqual({ x: 0, y: 100, z: 5 });
  });

  it('opens its door: it stops, and goes on no sooner than that is closed', () => {
    const machine = slow();
    machine.pass(4);
    machine.door(true);
    while (machine.pass(0.1));
    expect(machine.report()).toMatchObject({ state: 'held', why: 'the door is open' });
    expect(() => machine.go()).toThrow(/door/u);
    machine.door(false);
    machine.go();
    expect(machine.report().state).toBe('running');
  });

  it('changes tools by hand, and says which', () => {
    const machine = machineWith(`${LONG.replace('M30\n', '')}T2 M6\nG0 X5 Y5\nM30\n`, { ...FAST, hasChanger: false });
    machine.run();
    while (machine.pass(1));
    expect(machine.report()).toMatchObject({ state: 'tool', why: 'waits for T1' });
    expect(() => machine.changed(2)).toThrow('T1 is waited for, not T2.');
    machine.changed(1);
    while (machine.pass(1));
    expect(machine.report()).toMatchObject({ state: 'tool', why: 'waits for T2', tool: 1 });
    machine.changed(2);
    while (machine.pass(1));
    expect(machine.report()).toMatchObject({ state: 'idle', job: { isDone: true }, tool: 2 });
  });

  it('takes the feed down and up, and only that of cuts', () => {
    const [half, whole] = [50, 100].map((percent) => {
      const machine = machineWith(LONG);
      machine.feed(percent);
      machine.run();
      while (machine.pass(1));
      return machine.report().seconds;
    });
    expect(half / whole).toBeGreaterThan(1.9);
    expect(() => machineWith(LONG).feed(5)).toThrow(/5 %.*10 to 200/u);
  });

  it('goes on from a line after the power was cut: up, over it, and down', () => {
    const machine = slow();
    machine.pass(16);
    const { line } = machine.report().job!;
    expect(line).toBe(7);
    machine.power(false);
    expect(machine.report()).toMatchObject({ state: 'off', spindle: 'still' });
    expect(machine.report().job).toBeUndefined();
    expect(() => machine.run()).toThrow(Refusal);
    machine.power(true);
    expect(machine.report()).toMatchObject({ state: 'alarm', why: expect.stringContaining('home it') });
    machine.home();
    machine.take('job-1', 'part.ngc', LONG);
    machine.run(7);
    machine.rehearse(1);
    const seen: string[] = [];
    let before = machine.report().place;
    while (machine.pass(0.02)) {
      const { place } = machine.report();
      // Where it moves across it is above everything, until it is over the line's beginning.
      const isAcross = Math.hypot(place.x - before.x, place.y - before.y) > 1e-9;
      if (isAcross && place.y < 1e-6 && place.z < 4.9) seen.push(`${place.x}, ${place.y}, ${place.z}`);
      before = place;
    }
    expect(seen).toEqual([]);
    expect(machine.report()).toMatchObject({ state: 'idle', job: { isDone: true }, place: { x: 0, y: 100, z: 5 } });
  });

  it.each<[string, RegExp]>([
    ['hello', /cannot be read: Line 1/u],
    ['', /no moves/u],
    [`${HEAD}G1 X5000 F100\nM30\n`, /goes from .* to 5200\.0 mm in x, and the machine reaches from 0 to 1300/u],
    [`${HEAD}G1 X5 Z-200 F100\nM30\n`, /mm in z/u],
    [`${HEAD}G1 X5 Q100\nM30\n`, /cannot be read: .*4/u],
    [`${HEAD}G2 X5 Y5 I100 J3 F100\n`, /cannot be read/u],
  ])('is told why %j cannot be run', (text, words) => {
    const machine = machineWith(LONG);
    expect(() => machine.take('x', 'part.ngc', text)).toThrow(words);
    // What was in it before is still there.
    expect(machine.report().job?.id).toBe('job-1');
  });
});
