import { describe, expect, it } from '@jest/globals';
import { produce } from 'immer';
import { bareSign } from '../../../testing/signs.js';
import { newCombined, newShape, newText } from '../document/new-sign.js';
import type { Sign } from '../document/schema.js';
import { removeParts } from './edit.js';
import { setField } from './set-field.js';
import { sideEffects } from './side-effects.js';

/** A disc, a panel and a line of words set along the disc, on the panel, with two letters set by hand. */
function disc(): Sign {
  const sign = bareSign(200, 100, 5);
  sign.parts.push({ ...newShape(sign, 'circle'), id: 'disc', name: 'Disc' });
  sign.parts.push({ ...newShape(sign, 'rectangle'), id: 'panel', name: 'Panel' });
  sign.parts.push({
    ...newText(sign, 'lora-bold'),
    id: 'line',
    name: 'Line 1',
    words: 'FERN HOLLOW',
    path: { kind: 'part', part: 'disc', side: 'outside', shift: 0 },
    sitsOn: { kind: 'part', part: 'panel', at: 'floor' },
    letters: [
      { at: 0, kern: 1 },
      { at: 5, more: 2 },
    ],
  });
  return sign;
}
const after = (sign: Sign, recipe: (draft: Sign) => void): string[] => sideEffects(sign, produce(sign, recipe));

describe('what an edit does besides', () => {
  it('is told of letters whose words went, and not of those that stayed', () => {
    const words = (text: string) => after(disc(), (draft) => void setField(draft, ['parts', 2, 'words'], text));
    expect(words('FERN HOLLOW 2026')).toEqual([]);
    expect(words('FERN GATE')).toEqual(['What was set by hand on a letter of Line 1 went with it.']);
    expect(words('OAK')).toEqual(['What was set by hand on 2 letters of Line 1 went with them.']);
  });

  it('is told of words along a part, and of what sat on one, that is gone', () => {
    expect(after(disc(), (draft) => removeParts(draft, ['disc']))).toEqual([
      'Line 1 runs straight now: Disc, which it ran along, is gone.',
    ]);
    expect(after(disc(), (draft) => removeParts(draft, ['panel', 'disc']))).toEqual([
      'Line 1 sits on the face now: Panel is gone.',
      'Line 1 runs straight now: Disc, which it ran along, is gone.',
    ]);
  });

  it('is told of borders around a part and of what was combined of several', () => {
    const sign = disc();
    const border = newShape(sign, 'border');
    sign.parts.push({ ...border, id: 'rim', name: 'Rim', shape: { ...border.shape, of: 'disc' } } as never);
    sign.parts.push({ ...newCombined(sign, 'join', ['disc', 'panel']), id: 'both', name: 'Both' });
    expect(after(sign, (draft) => removeParts(draft, ['disc']))).toEqual([
      'Line 1 runs straight now: Disc, which it ran along, is gone.',
      'Rim follows the blank now: Disc is gone.',
      'Both is made of what is left.',
    ]);
    expect(after(sign, (draft) => removeParts(draft, ['disc', 'panel']))).toContain(
      'Both went, too: it was made of Disc, Panel.',
    );
  });

  it('is nothing where nothing else changed', () => {
    expect(after(disc(), () => undefined)).toEqual([]);
    expect(after(disc(), (draft) => void setField(draft, ['parts', 2, 'path', 'kind'], 'none'))).toEqual([]);
    expect(after(disc(), (draft) => removeParts(draft, ['line']))).toEqual([]);
  });
});
