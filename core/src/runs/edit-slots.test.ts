import { describe, expect, it } from '@jest/globals';
import { newShape, newSign, newText } from '../sign/index.js';
import { filled, slotName, slotsInWords, withSlotIn, withSlotSet, wordsOfPart, withWords } from './index.js';

const sign = () => {
  const made = newSign('Labels', 'mm');
  made.parts.push({ ...newText(made, 'cinzel-bold'), words: 'No.' });
  made.parts.push(newShape(made, 'code'), newShape(made, 'circle'));
  return made;
};

describe('slots of a sign', () => {
  it('are put into words from columns, and declared once', () => {
    let made = withSlotIn(sign(), 'line-1', 'accession {no}');
    made = withSlotIn(made, 'code-1', 'accession {no}');
    expect(made.parts.map(({ id }) => wordsOfPart(made, id))).toEqual(['No. {accession no}', '{accession no}', undefined]);
    expect(made.slots).toEqual([{ name: 'accession no', empty: 'close' }]);
    expect(slotsInWords(made)).toEqual(['accession no']);
    const plate = filled(made, new Map([['accession no', '2041']])).sign;
    expect(plate.parts.map(({ id }) => wordsOfPart(plate, id))).toEqual(['No. 2041', '2041', undefined]);
  });

  it('are set and taken out; nothing else of the sign changes', () => {
    const before = withSlotIn(sign(), 'line-1', 'bed');
    const kept = withSlotSet(before, 'bed', { name: 'bed', empty: 'refuse', case: 'upper' });
    expect(kept.slots).toEqual([{ name: 'bed', empty: 'refuse', case: 'upper' }]);
    expect('slots' in withSlotSet(kept, 'bed', undefined)).toBe(false);
    expect(withWords(withSlotSet(kept, 'bed', undefined), 'line-1', 'No.')).toEqual(sign());
  });

  it('have names without braces that are not too long', () => {
    expect([slotName('{a}\nb'), slotName(' {} '), slotName('x'.repeat(60)).length]).toEqual(['a b', 'value', 40]);
  });
});
