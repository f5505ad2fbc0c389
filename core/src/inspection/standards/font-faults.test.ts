import { describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../../testing/signs.js';
import { Workshop } from '../../../testing/workshop.js';
import { Evaluator } from '../../relief/index.js';
import { fontMeasures } from '../../type/index.js';
import { fontFaults, judged, STANDARDS } from '../index.js';

const workshop = new Workshop();
const [standard] = STANDARDS;
const OF_FONTS = ['Style', 'Proportions', 'Height', 'Stroke'];

describe('what a font does not meet of a standard', () => {
  it('is what the clauses find on the relief of a sign that is set in it, for every shipped font', () => {
    let [tried, failing] = [0, 0];
    for (const entry of workshop.book.catalogue.filter(({ proportions }) => proportions)) {
      const sign = bareSign(400, 120, 6);
      sign.checks = { standard: standard.id };
      addText(sign, 'IO', entry.id, 20, { kind: 'raise', by: 1 });
      const evaluator = new Evaluator(workshop.book);
      const results = judged(standard, evaluator.evaluateLoaded(sign), evaluator);
      const failed = results.filter(({ clause, verdict }) => OF_FONTS.includes(clause.title) && verdict === 'fails');
      const faults = fontFaults(standard, entry, 20);
      // Letters of scripts join, and are measured as they stand together.
      const count = entry.class === 'script' ? Math.min(1, failed.length) : failed.length;
      expect([entry.id, count, faults]).toEqual([entry.id, faults.length, faults]);
      tried++;
      if (faults.length > 0) failing++;
    }
    expect(tried).toBeGreaterThan(20);
    expect([failing > 5, failing < tried]).toEqual([true, true]);
  });

  it('has the catalogue’s proportions, which are those of the font', () => {
    for (const { id, proportions, kind } of workshop.book.catalogue) {
      if (!proportions) continue;
      expect([id, kind]).toEqual([id, 'outline']);
      const measured = fontMeasures(workshop.book, id)!;
      for (const name of ['capitals', 'stroke', 'roundWidth'] as const) expect([id, name, Math.abs(proportions[name] - measured[name]) < 1e-3]).toEqual([id, name, true]); // prettier-ignore
    }
  });

  it('tells of sizes where there is one, and of proportions where they are known', () => {
    const barlow = workshop.book.catalogue.find(({ id }) => id === 'barlow-regular')!;
    expect(fontFaults(standard, barlow, 20)).toEqual([]);
    expect(fontFaults(standard, barlow, 10)).toEqual([expect.stringMatching(/^I is 10\.\d mm high$/u)]);
    expect(fontFaults(standard, { ...barlow, proportions: undefined })).toEqual([]);
    expect(fontFaults(standard, { ...barlow, class: 'script' })).toEqual(['script, not a plain sans serif']);
    expect(fontFaults(standard, { ...barlow, proportions: { capitals: 1, stroke: 0.2, roundWidth: 0.4 } })).toEqual(['O is 40 % as wide as I is high', 'the stroke of I is 20 % of its height']); // prettier-ignore
  });
});
