import type { Endpoint } from '@plain-relief/api';
import { TestBed } from '@angular/core/testing';
import { newShape, newSign, newText, readSign, type Sign } from '@plain-relief/core/sign';
import { ReliefService } from '../../relief/relief.service';
import { Api } from '../../platform/api';
import { Arranger } from './arranger';
import { SignStore } from '../document/sign-store';

/** Two panels 20 × 10 and a word whose capitals stand 2 mm above the middle of its box. */
function signOfThree(): Sign {
  const sign = newSign('West gate', 'mm');
  for (const x of [-50, 40]) {
    const panel = newShape(sign, 'rectangle');
    sign.parts.push({ ...panel, place: { ...panel.place, x, y: x / 10 } });
  }
  sign.parts.push({ ...newText(sign, 'barlow-semibold'), words: 'gate' });
  return sign;
}

describe('Arranger', () => {
  let arranger: Arranger;
  let store: SignStore;
  const places = () => store.now!.sign.parts.map(({ place }) => [place.x, place.y]);

  beforeEach(async () => {
    localStorage.clear();
    const document = signOfThree();
    // What the worker would answer: boxes as the parts lie now.
    const box = (x: number, y: number, w: number, h: number) => ({
      minX: x - w / 2,
      minY: y - h / 2,
      maxX: x + w / 2,
      maxY: y + h / 2,
    });
    const relief = {
      clear: () => undefined,
      show: () => undefined,
      get latest() {
        const parts = store.now!.sign.parts.map(({ id, kind, place: { x, y } }) =>
          kind === 'text' ? { id, ink: box(x, y - 2, 30, 14), caps: box(x, y, 30, 10) } : { id, ink: box(x, y, 20, 10) },
        );
        return { plan: { blank: box(0, 0, 300, 200), parts } };
      },
      split: () => Promise.resolve({ parts: [], refusal: 'Line 1 has only one word: there is nothing to part.' }),
      outlined: (id: string) => Promise.resolve({ parts: [{ ...newShape(document, 'circle'), id, name: '“g”' }] }),
    };
    const api = {
      ask: (endpoint: Endpoint) =>
        Promise.resolve(
          endpoint === 'GET /signs/:id'
            ? { id: 's', revision: 1, document, job: { id: 'j', number: 'FA-0101', title: 'T', customer: 'C' } }
            : { revision: 2 },
        ),
    };
    TestBed.configureTestingModule({
      providers: [SignStore, Arranger, { provide: Api, useValue: api }, { provide: ReliefService, useValue: relief }],
    });
    store = TestBed.inject(SignStore);
    arranger = TestBed.inject(Arranger);
    await store.open('s');
  });

  it('aligns to the blank, to each other and to the part chosen last, as one step that can be undone', async () => {
    store.choose(['panel-1', 'panel-2']);
    const before = places();
    // They would lie on each other: both go as one.
    await arranger.do({ kind: 'align', at: 'right', to: 'blank', by: 'capitals' });
    expect(places().slice(0, 2)).toEqual([
      [50, -5],
      [140, 4],
    ]);
    expect(store.now!.undoLabel).toBe('align right');
    store.undo();
    expect(places()).toEqual(before);
    await arranger.do({ kind: 'align', at: 'left', to: 'chosen', by: 'box' });
    expect(places().slice(0, 2)).toEqual([
      [-50, -5],
      [-50, 4],
    ]);
    store.choose(['panel-1', 'panel-2']);
    await arranger.do({ kind: 'align', at: 'top', to: 'last', by: 'box' });
    expect(places()[0]).toEqual([-50, 4]);
  });

  it('centres a word by its capitals, or by its whole box', async () => {
    store.choose(['line-1']);
    await arranger.do({ kind: 'align', at: 'middle', to: 'blank', by: 'capitals' });
    expect(places()[2][1]).toBe(0);
    await arranger.do({ kind: 'align', at: 'middle', to: 'blank', by: 'box' });
    expect(places()[2][1]).toBe(2);
  });

  it('spreads, turns about the common middle, mirrors', async () => {
    store.choose(['panel-1', 'panel-2', 'line-1']);
    await arranger.do({ kind: 'spread', along: 'across', by: 'box' });
    // From −60 to 50 lie 70 mm of parts: two gaps of 20.
    expect(places().map(([x]) => x)).toEqual([-50, 40, -5]);
    store.choose(['panel-1', 'panel-2']);
    await arranger.do({ kind: 'turn' });
    expect(store.now!.sign.parts.map(({ place }) => place.turn)).toEqual([90, 90, 0]);
    expect(places().slice(0, 2)).toEqual([
      [-0.5, -45.5],
      [-9.5, 44.5],
    ]);
    await arranger.do({ kind: 'mirror' });
    expect(store.now!.sign.parts.map(({ place }) => place.mirror)).toEqual([true, true, false]);
    expect(() => readSign(store.now!.sign)).not.toThrow();
  });

  it('locks and hides what is chosen, and lets it go again', async () => {
    store.choose(['panel-1', 'panel-2']);
    await arranger.do({ kind: 'lock' });
    await arranger.do({ kind: 'align', at: 'left', to: 'blank', by: 'box' });
    expect(places()[0]).toEqual([-50, -5]);
    await arranger.do({ kind: 'hide' });
    expect(store.now!.undoLabel).toBe('hide');
    await arranger.do({ kind: 'hide' });
    await arranger.do({ kind: 'lock' });
    expect(store.now!.sign.parts[0]).not.toHaveProperty('locked');
    expect(store.now!.sign.parts[0]).not.toHaveProperty('hidden');
  });

  it('groups and ungroups; makes an outline the blank', async () => {
    store.choose(['panel-1', 'panel-2']);
    await arranger.do({ kind: 'group' });
    store.select('panel-1');
    expect(store.now!.chosen).toEqual(['panel-2', 'panel-1']);
    await arranger.do({ kind: 'ungroup' });
    store.select('panel-1');
    expect(store.now!.chosen).toEqual(['panel-1']);
    await arranger.do({ kind: 'blank' });
    expect(store.now!.sign.blank.outline).toMatchObject({ kind: 'rectangle', width: 240 });
    expect(places()).toEqual([
      [90, 9],
      [50, 5],
    ]);
  });

  it('takes words apart, or says why that cannot be', async () => {
    store.choose(['line-1']);
    expect(await arranger.do({ kind: 'split', into: 'words' })).toContain('only one word');
    expect(await arranger.do({ kind: 'outline' })).toBeUndefined();
    expect(store.now!.sign.parts[2]).toMatchObject({ kind: 'shape', name: '“g”' });
    store.undo();
    expect(store.now!.sign.parts[2]).toMatchObject({ kind: 'text', words: 'gate' });
  });
});
