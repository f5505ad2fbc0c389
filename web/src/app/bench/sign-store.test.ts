import { TestBed } from '@angular/core/testing';
import { jest } from '@jest/globals';
import { newSign, readSign, type Sign } from '@plain-relief/core/sign';
import { of } from 'rxjs';
import { ReliefService } from '../relief/relief.service';
import { Api } from '../shell/api';
import { Drafts } from './drafts';
import { SignStore } from './sign-store';

/** What the store hands on: documents shown and documents saved. */
class Outside {
  readonly shown: Sign[] = [];
  readonly saved: Sign[] = [];
  document = newSign('West gate', 'mm');

  readonly relief = { clear: () => undefined, show: (sign: Sign) => void this.shown.push(sign) };
  readonly api = {
    get: () =>
      of({ id: 's', revision: 4, document: this.document, job: { id: 'j', number: 'FA-0101', title: 'T', customer: 'C' } }),
    put: (_: string, { base, document }: { base: number; document: Sign }) => {
      this.saved.push(document);
      return of({ revision: base + 1 });
    },
  };
}

describe('SignStore', () => {
  let outside: Outside;
  let store: SignStore;
  const sign = () => store.now!.sign;

  beforeEach(async () => {
    jest.useFakeTimers();
    localStorage.clear();
    outside = new Outside();
    TestBed.configureTestingModule({
      providers: [SignStore, { provide: Api, useValue: outside.api }, { provide: ReliefService, useValue: outside.relief }],
    });
    store = TestBed.inject(SignStore);
    await store.open('s');
  });
  afterEach(() => jest.useRealTimers());

  it('shows every change, saves it, and keeps a document that can be read', async () => {
    store.addText();
    store.setField(['parts', 0, 'words'], 'FERNHOLLOW', 'words');
    store.addShape('rectangle');
    store.addShape('circle');
    expect(outside.shown.at(-1)).toBe(sign());
    await jest.advanceTimersByTimeAsync(700);
    expect(outside.saved.at(-1)).toEqual(sign());
    expect(store.now!.save).toEqual({ kind: 'saved', revision: 5 });
    expect(() => readSign(sign())).not.toThrow();
    expect(sign().parts.map(({ name }) => name)).toEqual(['Line 1', 'Panel 1', 'Hole 1']);
  });

  it('names what can be undone, and undoes it', () => {
    store.addText();
    store.setField(['parts', 0, 'size', 'height'], 30, 'cap height');
    expect(store.now!.undoLabel).toBe('cap height of Line 1');
    store.undo();
    expect(sign().parts[0]).toMatchObject({ size: { height: 20 } });
    expect(store.now!.redoLabel).toBe('cap height of Line 1');
    store.undo();
    expect(sign().parts).toEqual([]);
    expect(store.now!.selected).toBeUndefined();
    store.redo();
    store.redo();
    expect(sign().parts[0]).toMatchObject({ size: { height: 30 } });
  });

  it('turns the choice of an action or a host into what it stands for', () => {
    store.addShape('rectangle');
    store.addText();
    store.setField(['parts', 1, 'tiers', 0, 'action', 'kind'], 'carve', 'action');
    expect(sign().parts[1].tiers[0].action).toEqual({ kind: 'carve', by: 2 });
    store.setField(['parts', 1, 'sitsOn'], 'floor:panel-1', 'host');
    expect(sign().parts[1].sitsOn).toEqual({ kind: 'part', part: 'panel-1', at: 'floor' });
    store.setLevel('line-1', 'tier-1', 1);
    // The panel's floor is at −2 mm: a level of 1 mm is 3 mm above it.
    expect(sign().parts[1].tiers[0].action).toEqual({ kind: 'raise', by: 3 });
  });

  it('takes a part out and sets on the face what sat on it', () => {
    store.addShape('rectangle');
    store.addText();
    store.setField(['parts', 1, 'sitsOn'], 'floor:panel-1', 'host');
    store.removePart('panel-1');
    expect(sign().parts).toHaveLength(1);
    expect(sign().parts[0].sitsOn).toEqual({ kind: 'face' });
    expect(() => readSign(sign())).not.toThrow();
  });

  it('reorders parts but never a part before the one it sits on', () => {
    store.addShape('rectangle');
    store.addText();
    store.reorder('line-1', -1);
    expect(sign().parts.map(({ id }) => id)).toEqual(['line-1', 'panel-1']);
    store.reorder('line-1', 1);
    store.setField(['parts', 1, 'sitsOn'], 'top:panel-1', 'host');
    store.reorder('line-1', -1);
    store.reorder('panel-1', 1);
    expect(sign().parts.map(({ id }) => id)).toEqual(['panel-1', 'line-1']);
    store.reorder('panel-1', -1);
    expect(sign().parts.map(({ id }) => id)).toEqual(['panel-1', 'line-1']);
  });

  it('copies parts, adds tiers, switches them and takes them out', () => {
    store.addText();
    store.duplicate('line-1');
    expect(sign().parts.map(({ id }) => id)).toEqual(['line-1', 'line-2']);
    store.addTier('line-1');
    store.switchTier('line-1', 'tier-2');
    expect(sign().parts[0].tiers.map(({ id, on }) => [id, on])).toEqual([
      ['tier-1', true],
      ['tier-2', false],
    ]);
    store.removeTier('line-1', 'tier-1');
    expect(sign().parts[0].tiers.map(({ id }) => id)).toEqual(['tier-2']);
    store.movePart('line-1', 12.34567, -3);
    expect(sign().parts[0].place).toMatchObject({ x: 12.3457, y: -3 });
  });

  it('takes up a draft that was not saved, on top of the revision it began from', async () => {
    const draft = newSign('Typed before the page went', 'mm');
    TestBed.inject(Drafts).keep('s', { base: 3, document: draft });
    await store.open('s');
    expect(store.now).toMatchObject({ restored: true, sign: draft });
    await jest.advanceTimersByTimeAsync(700);
    expect(outside.saved.at(-1)).toEqual(draft);
  });
});
