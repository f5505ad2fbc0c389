import type { Endpoint } from '@plain-relief/api';
import { TestBed } from '@angular/core/testing';
import { jest } from '@jest/globals';
import {
  grouped,
  mirroredParts,
  newSign,
  type Part,
  pastedParts,
  readSign,
  type ShapePart,
  type Side,
  type Sign,
  turnedParts,
  ungrouped,
} from '@plain-relief/core/sign';
import fc from 'fast-check';
import { ReliefService } from '../../relief/relief.service';
import { Api } from '../../platform/api';
import { Notices } from '../../platform/notices';
import { newRun, withList } from '@plain-relief/core/runs';
import { Drafts } from './drafts';
import { askedPlate } from './plate-of-run';
import { ProofChoices } from '../output/proof-choices';
import { Remedies } from '../ticket/remedies';
import { Resizer } from './resizer';
import { SignStore } from './sign-store';

/** What the store hands on: documents shown and documents saved. */
class Outside {
  readonly shown: Sign[] = [];
  readonly saved: Sign[] = [];
  document = newSign('West gate', 'mm');
  run = withList(newRun('s'), { columns: ['name'], rows: [['Rowan'], ['Yew']] }).run;

  readonly relief = {
    clear: () => undefined,
    show: (sign: Sign, side: Side) => {
      this.shown.push(sign);
      this.side = side;
    },
  };
  side: Side | undefined;
  readonly api = {
    ask: (of: Endpoint, { body }: { body?: { base: number; document: Sign } }) => {
      if (of === 'GET /runs/:id') return Promise.resolve({ title: 'Trees', document: this.run });
      if (!body) {
        const job = { id: 'j', number: 'FA-0101', title: 'T', customer: 'C' };
        return Promise.resolve({ id: 's', revision: 4, document: this.document, job });
      }
      this.saved.push(body.document);
      return Promise.resolve({ revision: body.base + 1 });
    },
  };
}

describe('SignStore', () => {
  let outside: Outside;
  let store: SignStore;
  let resizer: Resizer;
  let choices: ProofChoices;
  const sign = () => store.now!.sign;

  beforeEach(async () => {
    jest.useFakeTimers();
    localStorage.clear();
    outside = new Outside();
    TestBed.configureTestingModule({
      providers: [
        SignStore,
        Resizer,
        ProofChoices,
        Remedies,
        { provide: Api, useValue: outside.api },
        { provide: ReliefService, useValue: outside.relief },
      ],
    });
    store = TestBed.inject(SignStore);
    resizer = TestBed.inject(Resizer);
    choices = TestBed.inject(ProofChoices);
    await store.open('s');
  });
  afterEach(() => jest.useRealTimers());

  it('says what an edit did besides, with the way back', () => {
    const notices = TestBed.inject(Notices);
    store.addShape('circle');
    const host = sign().parts[0].id;
    store.addText();
    store.edit('path', 'path', (draft) => {
      const line = draft.parts.find(({ kind }) => kind === 'text');
      if (line?.kind === 'text') line.path = { kind: 'part', part: host, side: 'outside', shift: 0 };
    });
    expect(notices.all()).toEqual([]);
    store.choose([host]);
    store.removeChosen();
    expect(notices.all().map(({ text }) => text)).toEqual(['Line 1 runs straight now: Hole 1, which it ran along, is gone.']);
    notices.all()[0].action!.run();
    expect(sign().parts.map(({ id }) => id)).toContain(host);
    // What is taken back or taken up again is told by its own words.
    store.redo();
    expect(notices.all()).toHaveLength(1);
  });

  it('shows a plate of a run in the place of the sign, of which nothing can be changed and nothing is saved', async () => {
    const notices = TestBed.inject(Notices);
    store.addText();
    store.setField(['parts', 0, 'words'], '{name}', 'words');
    outside.document = { ...sign(), slots: [{ name: 'name', empty: 'close' }] };
    await store.flush();
    const saved = outside.saved.length;
    await store.open('s', askedPlate('r', '2'));
    const [line] = sign().parts;
    expect([line.kind === 'text' && line.words, store.now!.plate]).toEqual(['Yew', expect.objectContaining({ run: 'r', title: 'Trees', at: 1, before: 1 })]); // prettier-ignore
    store.addShape('circle');
    store.undo();
    await store.flush();
    expect([sign().parts.length, outside.saved.length]).toEqual([1, saved]);
    expect(notices.all().at(-1)!.text).toBe('A plate is changed with all others on their sign, or alone in its run.');
    // Drafts are the sign's own.
    expect(TestBed.inject(Drafts).read('s')).toBeUndefined();
    await expect(store.open('s', askedPlate('r', '7'))).rejects.toThrow('This plate is in the list of Trees no more');
    outside.run = { ...outside.run, sign: 'other' };
    await expect(store.open('s', askedPlate('r', '1'))).rejects.toThrow('This run is of another sign');
    expect([askedPlate('r', undefined), askedPlate(undefined, '1'), askedPlate('r', '1e3')]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });

  it('takes an earlier document up as a step that can be undone', () => {
    const before = sign();
    store.takeUp({ ...newSign('Earlier', 'mm') }, 'revision 2');
    expect([sign().title, store.now!.undoLabel]).toEqual(['Earlier', 'take up revision 2']);
    store.undo();
    expect(sign()).toEqual(before);
  });

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
    expect(sign().parts.map(({ name }) => name)).toEqual(['Panel 1', 'Line 1', 'Hole 1']);
  });

  it('edits an option apart from the sign, undoes it by its name, and saves both in one document', async () => {
    store.addText();
    store.setField(['parts', 0, 'words'], 'FERN', 'words');
    choices.addOption();
    expect(store.now!.option).toBe('option-1');
    store.setLevel('line-1', 'tier-1', 5);
    expect(store.now!.undoLabel).toBe('height of Line 1 (Option A)');
    store.addShape('circle');
    expect(sign().parts[0].tiers[0].action).toEqual({ kind: 'raise', by: 5 });
    store.showOption(undefined);
    expect(sign().parts[0].tiers[0].action).toEqual({ kind: 'raise', by: 2 });
    expect(sign().parts).toHaveLength(2);
    await jest.advanceTimersByTimeAsync(700);
    expect(outside.saved.at(-1)!.options).toEqual([
      { id: 'option-1', name: 'Option A', tiers: [{ part: 'line-1', tier: 'tier-1', amount: 5 }] },
    ]);
    expect(() => readSign(outside.saved.at(-1))).not.toThrow();
    // Another option begins as the one that is shown, and goes when it is taken out.
    store.showOption('option-1');
    choices.addOption();
    expect([store.now!.option, sign().parts[0].tiers[0].action]).toEqual(['option-2', { kind: 'raise', by: 5 }]);
    choices.removeOption('option-2');
    expect([store.now!.option, sign().parts[0].tiers[0].action]).toEqual([undefined, { kind: 'raise', by: 2 }]);
    store.undo();
    expect(sign().options).toHaveLength(2);
    // What is said of a tier goes with it.
    store.showOption('option-1');
    store.removeTier('line-1', 'tier-1');
    expect(sign().options![0].tiers).toEqual([]);
  });

  it('turns the sign over, and adds to the side that is seen', () => {
    store.addText();
    store.turnOver('back');
    expect([outside.side, store.now!.chosen]).toEqual(['back', []]);
    store.addText();
    expect(sign().parts.map(({ side }) => side)).toEqual([undefined, 'back']);
    expect(() => readSign(sign())).not.toThrow();
  });

  it('keeps the cut line as named sections, goes back to them, and drops them', () => {
    choices.keepSection();
    store.setSection({ x: 3, y: 4, turn: 90 });
    choices.keepSection();
    expect(sign().sections?.map(({ name, turn }) => [name, turn])).toEqual([['A–A', 0], ['B–B', 90]]); // prettier-ignore
    choices.showSection('section-1');
    expect(sign().section).toEqual({ x: 0, y: 0, turn: 0 });
    choices.dropSection('section-1');
    choices.dropSection('section-2');
    expect(sign().sections).toBeUndefined();
  });

  it('brings a part just before or after another in the build order, as far as what it sits on lets it', () => {
    for (const kind of ['rectangle', 'circle', 'ellipse', 'stadium'] as const) store.addShape(kind);
    const names = () => sign().parts.map(({ name }) => name.split(' ')[0]);
    store.reorderTo('panel-1', 'ellipse-1');
    expect(names()).toEqual(['Hole', 'Ellipse', 'Panel', 'Stadium']);
    store.reorderTo('stadium-1', 'hole-1');
    expect(names()).toEqual(['Stadium', 'Hole', 'Ellipse', 'Panel']);
    store.setField(['parts', 3, 'sitsOn'], 'floor:ellipse-1', 'sits on');
    store.reorderTo('panel-1', 'stadium-1');
    expect(names()).toEqual(['Stadium', 'Hole', 'Ellipse', 'Panel']);
  });

  it('puts a plate behind letters that nothing holds, and takes it away again', () => {
    store.addText();
    store.setField(['blank', 'cutTo', 'kind'], 'letters', 'what is left of the blank');
    TestBed.inject(Remedies).apply({ remedy: { kind: 'backer' } });
    expect(sign().blank.cutTo?.backer).toMatchObject({ kind: 'grown', margin: 4 });
    store.undo();
    expect(sign().blank.cutTo).toEqual({ parts: ['line-1'] });
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
    store.setField(['parts', 1, 'sitsOn'], 'floor:panel-1', 'sits on');
    expect(sign().parts[1].sitsOn).toEqual({ kind: 'part', part: 'panel-1', at: 'floor' });
    store.setLevel('line-1', 'tier-1', 1);
    // The panel's floor is at −2 mm: a level of 1 mm is 3 mm above it.
    expect(sign().parts[1].tiers[0].action).toEqual({ kind: 'raise', by: 3 });
  });

  it('takes a part out and sets on the face what sat on it', () => {
    store.addShape('rectangle');
    store.addText();
    store.setField(['parts', 1, 'sitsOn'], 'floor:panel-1', 'sits on');
    store.select('panel-1');
    store.removeChosen();
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
    store.setField(['parts', 1, 'sitsOn'], 'top:panel-1', 'sits on');
    store.reorder('line-1', -1);
    store.reorder('panel-1', 1);
    expect(sign().parts.map(({ id }) => id)).toEqual(['panel-1', 'line-1']);
    store.reorder('panel-1', -1);
    expect(sign().parts.map(({ id }) => id)).toEqual(['panel-1', 'line-1']);
  });

  it('gives edges, areas and finishes, and takes them back one by one', () => {
    store.addText();
    const id = sign().parts[0].id;
    const before = sign();
    store.setField(['parts', 0, 'tiers', 0, 'edge', 'kind'], 'ridged', 'edge');
    store.setField(['parts', 0, 'tiers', 0, 'area', 'kind'], 'stroke', 'area');
    store.setField(['parts', 0, 'tiers', 0, 'finish', 'top'], 'gold-leaf', 'finish of the top');
    store.setField(['blank', 'edge', 'kind'], 'rounded', 'edge of the blank');
    expect(readSign(sign())).toEqual(sign());
    const [tier] = sign().parts[0].tiers;
    expect([tier.edge?.kind, tier.area.kind, tier.finish?.top]).toEqual(['ridged', 'stroke', 'gold-leaf']);
    expect(sign().finishes?.map(({ name }) => name)).toEqual(['gold leaf']);
    expect(sign().blank.edge).toEqual({ kind: 'rounded', radius: 3 });
    TestBed.inject(Remedies).apply({ part: id, remedy: { kind: 'bridges' } });
    expect(sign().parts[0].bridges?.count).toBe(2);
    for (let i = 0; i < 5; i++) store.undo();
    expect(sign()).toEqual(before);
  });

  it('builds a part after another, as the note on what is buried offers', () => {
    store.addText();
    store.addShape('rectangle');
    store.addShape('circle');
    const order = () => sign().parts.map(({ id }) => id);
    const [line, panel, hole] = order();
    TestBed.inject(Remedies).apply({ part: line, remedy: { kind: 'later', after: panel } });
    expect(order()).toEqual([panel, line, hole]);
    store.undo();
    expect(order()).toEqual([line, panel, hole]);
  });

  it('copies parts, adds tiers, switches them and takes them out', () => {
    store.addText();
    store.duplicate();
    expect(sign().parts.map(({ id }) => id)).toEqual(['line-1', 'line-2']);
    store.addTier('line-1');
    store.switchTier('line-1', 'tier-2');
    expect(sign().parts[0].tiers.map(({ id, on }) => [id, on])).toEqual([
      ['tier-1', true],
      ['tier-2', false],
    ]);
    store.removeTier('line-1', 'tier-1');
    expect(sign().parts[0].tiers.map(({ id }) => id)).toEqual(['tier-2']);
    store.place([{ id: 'line-1', x: 12.34567, y: -3 }]);
    expect(sign().parts[0].place).toMatchObject({ x: 12.3457, y: -3 });
  });

  it('chooses groups as one, adds to what is chosen and lets go of it', () => {
    for (let i = 0; i < 4; i++) store.addShape('rectangle');
    const ids = sign().parts.map(({ id }) => id);
    store.choose(ids.slice(0, 2));
    store.arrange('group', grouped);
    store.select(ids[0]);
    expect(store.now!.chosen).toEqual([ids[1], ids[0]]);
    store.select(ids[2], true);
    expect([store.now!.chosen, store.now!.selected]).toEqual([[ids[1], ids[0], ids[2]], ids[2]]);
    store.select(ids[0], true);
    expect(store.now!.chosen).toEqual([ids[2]]);
    store.select(undefined);
    expect(store.now!.chosen).toEqual([]);
  });

  it('combines outlines: the sources are kept and not made by themselves', () => {
    store.addShape('rectangle');
    store.addShape('circle');
    store.choose(['panel-1', 'hole-1']);
    store.combine('cut');
    expect(sign().parts.map(({ tiers }) => tiers.some(({ on }) => on))).toEqual([false, false, true]);
    expect(sign().parts[2]).toMatchObject({ shape: { kind: 'combined', how: 'cut', of: ['panel-1', 'hole-1'] } });
    store.undo();
    expect(sign().parts.map(({ tiers }) => tiers[0].on)).toEqual([true, true]);
  });

  it('stretches from what a part was when its size began to be changed', () => {
    store.addShape('rectangle');
    const [from] = sign().parts;
    resizer.resize(from, { across: 1.1, up: 1 });
    resizer.resize(from, { across: 1.2, up: 1 }, { x: 5, y: 0 });
    const width = (from as ShapePart).shape.kind === 'rectangle' ? 240 : 0;
    expect(sign().parts[0]).toMatchObject({ shape: { width: width * 1.2 }, place: { x: 5 } });
    store.undo();
    expect(sign().parts[0]).toEqual(from);
  });

  it('makes several parts larger together about a point, as one step; what follows others or is held stays', () => {
    store.addShape('rectangle');
    store.addText();
    store.addShape('border');
    store.place([{ id: 'panel-1', x: 10, y: 0 }]);
    const from = sign().parts;
    resizer.resizeTogether(from, 1.25, { x: -10, y: 0 });
    resizer.resizeTogether(from, 1.5, { x: -10, y: 0 });
    const [panel, line, border] = sign().parts;
    expect(panel).toMatchObject({ shape: { width: 360, height: 180 }, place: { x: 20, y: 0 } });
    expect(line).toMatchObject({ size: { height: 30 } });
    expect(border).toEqual(from[2]);
    store.undo();
    expect(sign().parts).toEqual(from);
  });

  const COMMANDS: readonly ((n: number) => void)[] = [
    () => store.addText(),
    (n) =>
      store.addShape(
        (['rectangle', 'circle', 'ellipse', 'stadium', 'polygon', 'arch', 'border', 'line', 'fixings', 'outline'] as const)[
          n % 10
        ],
      ),
    (n) => store.select(sign().parts[n % (sign().parts.length || 1)]?.id, n % 3 === 0),
    (n) => store.choose(sign().parts.slice(0, n % 5).map(({ id }) => id)), // prettier-ignore
    () => store.duplicate(),
    () => store.removeChosen(),
    () => store.paste(store.chosenParts()),
    (n) => store.combine((['join', 'cut', 'common'] as const)[n % 3]),
    () => store.arrange('group', grouped),
    () => store.arrange('ungroup', ungrouped),
    (n) => store.arrange('turn', (draft, ids) => turnedParts(draft, ids, n % 360, { x: n, y: 1 })),
    (n) => store.arrange('mirror', (draft, ids) => mirroredParts(draft, ids, n)),
    (n) => store.place(store.chosenParts().map(({ id }) => ({ id, x: n / 7, y: -n }))),
    (n) => sign().parts[0] && resizer.resize(sign().parts[n % sign().parts.length], { across: 1 + (n % 5) / 9, up: 1 }),
    (n) => resizer.resizeTogether(store.chosenParts(), 1 + (n % 5) / 9, { x: n, y: -n }),
    (n) => sign().parts[0] && store.reorder(sign().parts[n % sign().parts.length].id, n % 2 ? 1 : -1),
    (n) => sign().parts[0] && store.addTier(sign().parts[n % sign().parts.length].id),
    (n) => onPart(n, ({ id, tiers }) => tiers[0] && store.switchTier(id, tiers[0].id)),
    (n) => onPart(n, ({ id, tiers }) => tiers[1] && store.removeTier(id, tiers[1].id)),
    (n) => onPart(n, ({ id, tiers }) => tiers[0] && store.setLevel(id, tiers[0].id, (n % 9) - 4)),
    (n) => onText(n, (index) => store.setField(['parts', index, 'words'], 'FERN '.repeat(n % 4), 'words')),
    (n) => onText(n, (index) => store.setField(['parts', index, 'frame', 'kind'], n % 2 ? 'frame' : 'none', 'frame')),
    (n) => onText(n, (index) => store.setField(['parts', index, 'path', 'kind'], n % 2 ? 'arc' : 'none', 'path')),
    (n) =>
      onText(n, (index) => store.setField(['parts', index, 'features', 'smallCapitals'], n % 2 ? 'true' : 'false', 'alternates')),
    (n) => onText(n, (index) => store.setLetter(sign().parts[index].id, n % 3, { kern: n % 4, turn: n % 2 })),
    (n) => onText(n, (index) => store.setTracking(sign().parts[index].id, n % 30)),
    (n) => onPart(n, (part) => store.replace(part.id, 'part', pastedParts([part, part], { ...sign(), parts: [] }).map((copy, i) => (i === 0 ? copy : { ...copy, id: `again-${n}-${sign().parts.length}` })))), // prettier-ignore
    (n) =>
      onPart(n, (_, index) =>
        store.setField(['parts', index, 'copies', 'kind'], (['row', 'ring', 'once'] as const)[n % 3], 'copies'),
      ),
    (n) => store.setGuides(n % 3 ? [{ across: n % 2 === 0, at: n }] : []),
    (n) => store.setField(['blank', 'outline', 'kind'], (['circle', 'arch', 'rectangle'] as const)[n % 3], 'shape'),
    (n) => store.setField(['blank', 'laminate', 'kind'], n % 2 ? 'laminate' : 'plain', 'plies'),
    (n) => store.setGround(n % 2 ? { file: '0'.repeat(36), x: 0, y: 0, width: n + 1, height: 5, shows: 50 } : undefined),
    (n) => store.setSection({ x: n, y: 0, turn: n % 90 }),
    (n) => store.scaleDesign(1 + (n % 3) / 10),
    (n) => store.setField(['unit'], n % 2 ? 'in' : 'mm', 'unit'),
    (n) => store.addArtwork('Crozier', [{ colour: '#000', areaMm2: 1, lines: 0, width: 9, height: n + 1, x: 0, y: 0, path: 'M0 0L9 0L9 9Z', preview: '', linesPreview: '' }]), // prettier-ignore
  ];

  function onPart(n: number, act: (part: Part, index: number) => void): void {
    const index = n % (sign().parts.length || 1);
    if (sign().parts[index]) act(sign().parts[index], index);
  }

  function onText(n: number, act: (index: number) => void): void {
    const texts = sign().parts.flatMap(({ kind }, index) => (kind === 'text' ? [index] : []));
    if (texts.length > 0) act(texts[n % texts.length]);
  }

  it('any commands, undone, give the first document byte for byte, and done again the last; between, every one can be read', async () => {
    const command = fc.tuple(fc.nat(COMMANDS.length - 1), fc.nat(1000));
    await fc.assert(
      fc.asyncProperty(fc.array(command, { minLength: 5, maxLength: 60 }), async (commands) => {
        await store.open('s');
        const first = JSON.stringify(sign());
        for (const [which, n] of commands) {
          COMMANDS[which](n);
          expect(() => readSign(sign())).not.toThrow();
        }
        const last = JSON.stringify(sign());
        while (store.now!.undoLabel !== undefined) store.undo();
        expect(JSON.stringify(sign())).toBe(first);
        while (store.now!.redoLabel !== undefined) store.redo();
        expect(JSON.stringify(sign())).toBe(last);
      }),
      { numRuns: 150 },
    );
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
