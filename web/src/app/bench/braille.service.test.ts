import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { type BrailleShape, newShape, newSign, newText, type ShapePart, type Sign } from '@plain-relief/core/sign';
import { BehaviorSubject } from 'rxjs';
import { Api } from '../platform/api';
import { Notices } from '../platform/notices';
import { BrailleService } from './braille.service';
import { SignStore } from './document/sign-store';

type Answer = { cells: string; missing: string[] } | Error;

/** The service on a sign with a line and its braille. */
function begin(words: string, answer: (asked: string) => Answer = (asked) => ({ cells: `⠿${asked.length}`, missing: [] })) {
  const sign = newSign('Test', 'mm');
  sign.parts.push({ ...newText(sign, 'barlow-semibold'), words });
  sign.parts.push(newShape(sign, 'braille'));
  const state = new BehaviorSubject<unknown>({});
  const asked: string[] = [];
  const said: { sentence: string; run?: () => void }[] = [];
  const store = {
    state$: state,
    whole: sign,
    amend: (recipe: (sign: Sign) => void) => {
      recipe(sign);
      state.next({});
    },
  };
  const api = {
    ask: async (_: string, { body }: { body: { words: string } }) => {
      asked.push(body.words);
      const given = answer(body.words);
      if (given instanceof Error) throw given;
      return given;
    },
  };
  const say = (sentence: string, action?: { run: () => void }) => said.push({ sentence, run: action?.run });
  TestBed.configureTestingModule({
    providers: [
      BrailleService,
      { provide: SignStore, useValue: store },
      { provide: Api, useValue: api },
      { provide: Notices, useValue: { say } },
    ],
  });
  const service = TestBed.inject(BrailleService);
  const settle = () => jest.advanceTimersByTimeAsync(500);
  const shape = () => (sign.parts[1] as ShapePart).shape as BrailleShape;
  const retype = async (next: string) => {
    const [text] = sign.parts;
    if (text.kind === 'text') text.words = next;
    state.next({});
    await settle();
  };
  return { service, sign, shape, asked, said, settle, retype };
}

describe('BrailleService', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  it('translates what has come apart, once, without the capitals of lettering', async () => {
    const { shape, asked, settle, retype } = begin('ROOM 4');
    await settle();
    expect([asked, shape().cells, shape().translated]).toEqual([['room 4'], '⠿6', { words: 'room 4', table: 'ueb-2' }]);
    await settle();
    expect(asked).toHaveLength(1);
    await retype('ROOM 40');
    expect([asked, shape().cells]).toEqual([['room 4', 'room 40'], '⠿7']);
    // No words have no cells, and nobody is asked.
    await retype(' ');
    expect([asked.length, shape().cells]).toEqual([2, '']);
  });

  it('leaves cells that were corrected by hand', async () => {
    const { shape, asked, settle } = begin('ROOM 4');
    shape().corrected = true;
    await settle();
    expect(asked).toEqual([]);
  });

  it('says why nothing can be translated, and tries again when it is asked to', async () => {
    let isThere = false;
    const { service, shape, said, settle, asked } = begin('ROOM', () =>
      isThere ? { cells: '⠗', missing: ['ł'] } : new Error('Nothing translates to braille on this server.'),
    );
    await settle();
    await settle();
    expect([asked.length, service.trouble(), shape().cells]).toEqual([1, 'Nothing translates to braille on this server.', '']);
    isThere = true;
    said[0].run!();
    await settle();
    expect([service.trouble(), shape().cells]).toEqual([undefined, '⠗']);
    expect(said[1].sentence).toBe('Braille 1: Unified English, contracted (grade 2) has no cells for “ł”.');
  });

  it('does not take cells of words that are others by now', async () => {
    const { shape, sign, asked, settle } = begin('ROOM', (words) => {
      const [text] = sign.parts;
      if (text.kind === 'text' && words === 'room') text.words = 'HALL';
      return { cells: `⠿${words.length === 4 ? words[0] : ''}`, missing: [] };
    });
    await settle();
    await settle();
    expect([asked, shape().translated?.words]).toEqual([['room', 'hall'], 'hall']);
  });
});
