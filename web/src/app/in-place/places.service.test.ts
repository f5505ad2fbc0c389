import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { newPlace, type Place } from '@plain-relief/core/in-place';
import { newSign } from '@plain-relief/core/sign';
import { firstValueFrom } from 'rxjs';
import { jobOf } from '../../testing/jobs';
import { Api, ApiError } from '../platform/api';
import { PlacesService, type PlacesState } from './places.service';

const job = jobOf({ signs: [{ id: 'a', title: 'West gate', revision: 3, savedAt: '2026-11-20T09:00:00.000Z', words: '' }] });
const kept = { id: 'p', title: 'Gate', revision: 1, document: newPlace([{ id: 'a', width: 200 }]), savedAt: '' };

describe('PlacesService', () => {
  let asked: [string, { body?: { base?: number; document?: Place } }][];
  let answer: (endpoint: string) => unknown;
  let service: PlacesService;
  const state = (): Promise<PlacesState> => firstValueFrom(service.state$);

  beforeEach(async () => {
    jest.useFakeTimers();
    asked = [];
    answer = (endpoint) => {
      if (endpoint === 'GET /jobs/:id') return job;
      if (endpoint === 'GET /jobs/:id/places') return { places: [kept] };
      if (endpoint === 'GET /signs/:id') return { id: 'a', document: newSign('West gate', 'mm') };
      return { ...kept, revision: 2 };
    };
    const ask = (endpoint: string, request: (typeof asked)[number][1]) => {
      asked.push([endpoint, request]);
      return Promise.resolve().then(() => answer(endpoint));
    };
    TestBed.configureTestingModule({ providers: [PlacesService, { provide: Api, useValue: { ask } }] });
    service = TestBed.inject(PlacesService);
    await service.open('j');
  });
  afterEach(() => jest.useRealTimers());

  const turned = (place: Place, turn: number): Place => ({ ...place, view: { ...place.view, turn } });
  const view = async (): Promise<number> => (await state()).shown!.document.view.turn;
  const pause = () => jest.advanceTimersByTimeAsync(700);

  it('shows the first place with the documents of its signs', async () => {
    expect(await state()).toMatchObject({
      isLoading: false,
      shown: kept,
      documents: { a: { title: 'West gate' } },
      save: 'saved',
    });
  });

  it('undoes and takes again edits by their names; a drag is one', async () => {
    service.edit('view', { document: turned(kept.document, 30) });
    for (const turn of [31, 32, 33]) service.edit('moving mark', { document: turned((await state()).shown!.document, turn) });
    service.settle('mark');
    expect([await view(), (await state()).undoLabel]).toEqual([33, 'mark']);
    service.undo();
    expect([await view(), (await state()).undoLabel, (await state()).redoLabel]).toEqual([30, 'view', 'mark']);
    service.undo();
    expect((await state()).shown!.document).toEqual(kept.document);
    service.redo();
    service.redo();
    expect(await view()).toBe(33);
  });

  it('saves after a pause what stands then, from the revision that it began with', async () => {
    service.edit('view', { document: turned(kept.document, 30) });
    service.edit('view', { document: turned(kept.document, 40) });
    expect((await state()).save).toBe('saving');
    await pause();
    const puts = asked.filter(([endpoint]) => endpoint === 'PUT /places/:id').map(([, { body }]) => [body!.base, body!.document!.view.turn]); // prettier-ignore
    expect([puts, (await state()).save]).toEqual([[[1, 40]], 'saved']);
    service.edit('view', { document: turned(kept.document, 50) });
    await pause();
    expect(asked.at(-1)![1].body).toMatchObject({ base: 2, document: { view: { turn: 50 } } });
  });

  it('keeps what could not be saved, says so, and tries again where that helps', async () => {
    const usual = answer;
    answer = () => {
      throw new ApiError(503, 'The database is away.', null);
    };
    service.edit('view', { document: turned(kept.document, 30) });
    await pause();
    expect(await state()).toMatchObject({
      save: 'failed',
      error: 'The database is away.',
      shown: { document: { view: { turn: 30 } } },
    });
    answer = usual;
    await jest.advanceTimersByTimeAsync(4100);
    expect(await state()).toMatchObject({ save: 'saved', error: undefined });
    answer = () => {
      throw new ApiError(409, 'Somebody else changed this place meanwhile.', null);
    };
    service.edit('view', { document: turned(kept.document, 60) });
    await jest.advanceTimersByTimeAsync(20_000);
    expect([await state(), asked.filter(([endpoint]) => endpoint.startsWith('PUT')).length]).toEqual([expect.objectContaining({ save: 'failed' }), 3]); // prettier-ignore
    expect(await view()).toBe(60);
  });
});
