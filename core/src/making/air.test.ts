import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { demoSigns } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { cutPlan, USUAL } from '../cutting/index.js';
import { programsOf } from '../gcode/index.js';
import { readProgram, timedSteps } from '../program/index.js';
import { materialFor, readShop } from '../shop/index.js';
import { readSign } from '../sign/index.js';
import { proposedMachine, proposedTools, signToCut } from './index.js';

const workshop = new Workshop();
const shop = readShop(JSON.parse(readFileSync(new URL('../../../demo/shop.json', import.meta.url), 'utf8')));

/** Those that are planned in a moment; others are in bench/. */
const SIGNS = ['keyring', 'reading-room', 'tree-label', 'wall-letters', 'hollow-letters', 'west-gate', 'bilge-pump'];

describe('the time that tools spend in the air', () => {
  it.each(demoSigns().filter(([name]) => SIGNS.some((each) => name.startsWith(each))))(
    'is less than 15 %% of that of the demo sign %s, with what is proposed to cut it',
    (_, source) => {
      const evaluation = workshop.evaluate(signToCut(readSign(source, workshop.book.catalogue)));
      const machine = proposedMachine(evaluation, shop)!;
      const material = materialFor(shop, evaluation.sign.blank.material)!;
      const plan = cutPlan(evaluation, { ...USUAL, machine, material, tools: proposedTools(evaluation, shop) });
      let [air, all] = [0, 0];
      for (const { text } of programsOf(plan, 'air'))
        for (const { step, seconds } of timedSteps(readProgram(text), machine)) {
          all += seconds;
          if (step.kind === 'rapid') air += seconds;
        }
      expect(all).toBeGreaterThan(10);
      expect(air / all).toBeLessThan(0.15);
    },
  );
});
