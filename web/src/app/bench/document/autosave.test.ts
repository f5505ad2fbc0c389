import type { Endpoint } from '@plain-relief/api';
import { jest } from '@jest/globals';
import { newSign, type Sign } from '@plain-relief/core/sign';
import type { Api } from '../../platform/api';
import { ApiError } from '../../platform/api';
import { Autosave, type SaveState } from './autosave';
import { Drafts } from './drafts';

const sign = (thickness: number): Sign => {
  const made = newSign('Test', 'mm');
  return { ...made, blank: { ...made.blank, thickness } };
};

/** A server that answers as told and remembers what it was sent. */
class FakeServer {
  readonly sent: { base: number; document: Sign }[] = [];
  answer: 'take' | 'slow' | 'away' | 'refuse' | 'stale' = 'take';
  revision = 1;

  async ask(_: Endpoint, { body }: { body?: { base: number; document: Sign } }): Promise<{ revision: number; document?: Sign }> {
    if (!body) return { revision: 11, document: sign(100) };
    this.sent.push(body);
    if (this.answer === 'away') throw new ApiError(0, 'away', null);
    if (this.answer === 'refuse') throw new ApiError(400, 'blank.thickness: is wrong', null);
    if (this.answer === 'stale' && body.base !== 9)
      throw new ApiError(409, 'stale', { theirs: sign(99), revision: 9, savedAt: '2026-11-25T00:00:00Z' });
    this.revision = body.base + 1;
    const answer = { revision: this.revision };
    if (this.answer === 'slow') await new Promise((done) => setTimeout(done, 2000));
    return answer;
  }
}

describe('Autosave', () => {
  let server: FakeServer;
  let drafts: Drafts;
  let autosave: Autosave;
  let state: SaveState;

  beforeEach(() => {
    jest.useFakeTimers();
    localStorage.clear();
    server = new FakeServer();
    drafts = new Drafts();
    autosave = new Autosave(server as unknown as Api, drafts, 'a', 1, sign(1));
    autosave.state$.subscribe((now) => (state = now));
  });
  afterEach(() => jest.useRealTimers());

  it('keeps every change in the browser at once and sends the newest after a pause', async () => {
    autosave.changed(sign(2));
    autosave.changed(sign(3));
    expect(drafts.read('a')!.document.blank.thickness).toBe(3);
    expect(server.sent).toHaveLength(0);
    await jest.advanceTimersByTimeAsync(600);
    expect(server.sent.map(({ base, document }) => [base, document.blank.thickness])).toEqual([[1, 3]]);
    expect(state).toEqual({ kind: 'saved', revision: 2 });
    expect(drafts.read('a')).toBeUndefined();
  });

  it('is saved where a change is taken back before it was sent', async () => {
    const first = sign(2);
    autosave.changed(first);
    await jest.advanceTimersByTimeAsync(600);
    autosave.changed(sign(3));
    autosave.changed(first);
    await jest.advanceTimersByTimeAsync(600);
    expect(server.sent).toHaveLength(1);
    expect(state).toEqual({ kind: 'saved', revision: 2 });
    expect(drafts.read('a')).toBeUndefined();
  });

  it('says “waiting” while the server is away, keeps trying and loses nothing', async () => {
    server.answer = 'away';
    autosave.changed(sign(2));
    await jest.advanceTimersByTimeAsync(8000);
    expect(state.kind).toBe('waiting');
    expect(server.sent.length).toBeGreaterThan(2);
    expect(drafts.read('a')!.document.blank.thickness).toBe(2);
    server.answer = 'take';
    await jest.advanceTimersByTimeAsync(9000);
    expect(state).toEqual({ kind: 'saved', revision: 2 });
  });

  it('is saved for whoever makes files of it only when the newest has come, whatever was on its way', async () => {
    server.answer = 'slow';
    autosave.changed(sign(2));
    await jest.advanceTimersByTimeAsync(600);
    expect(server.sent).toHaveLength(1);
    autosave.changed(sign(3));
    let isSaved = false;
    void autosave.saved().then(() => (isSaved = true));
    await jest.advanceTimersByTimeAsync(1900);
    expect([isSaved, server.sent.length]).toEqual([false, 2]);
    await jest.advanceTimersByTimeAsync(2000);
    expect([isSaved, server.sent.map(({ base, document }) => [base, document.blank.thickness])]).toEqual([true, [[1, 2], [2, 3]]]); // prettier-ignore
    await jest.advanceTimersByTimeAsync(5000);
    expect(server.sent).toHaveLength(2);
    expect(state).toEqual({ kind: 'saved', revision: 3 });
  });

  it.each([
    ['away', 'What you see is not saved: away'],
    ['refuse', 'What you see is not saved: blank.thickness: is wrong'],
    ['stale', 'What you see is not saved, since somebody else saved the sign'],
  ] as const)('says why nothing can be made of it when the server answers “%s”', async (answer, words) => {
    server.answer = answer;
    autosave.changed(sign(2));
    const made = expect(autosave.saved()).rejects.toThrow(words);
    await jest.advanceTimersByTimeAsync(10);
    await made;
  });

  it('asks when another was saved meanwhile, and does not send until answered', async () => {
    server.answer = 'stale';
    autosave.changed(sign(2));
    await jest.advanceTimersByTimeAsync(600);
    expect(state).toMatchObject({ kind: 'conflict', conflict: { revision: 9 } });
    autosave.changed(sign(3));
    await jest.advanceTimersByTimeAsync(5000);
    expect(server.sent).toHaveLength(1);
    autosave.keepMine();
    await jest.advanceTimersByTimeAsync(100);
    expect(server.sent.at(-1)).toMatchObject({ base: 9, document: { blank: { thickness: 3 } } });
    expect(state).toEqual({ kind: 'saved', revision: 10 });
  });

  it('gives the other document where that is chosen', async () => {
    server.answer = 'stale';
    autosave.changed(sign(2));
    await jest.advanceTimersByTimeAsync(600);
    // What was changed after the two saves met is set aside, too.
    autosave.changed(sign(3));
    const theirs = await autosave.takeTheirs();
    expect(server.sent.map(({ base, document }) => [base, document.blank.thickness])).toEqual([
      [1, 2],
      [1, 3],
    ]);
    // Theirs as it is by now, not as it was when they met.
    expect(theirs!.blank.thickness).toBe(100);
    expect(state).toEqual({ kind: 'saved', revision: 11 });
    expect(drafts.read('a')).toBeUndefined();
    expect(await autosave.takeTheirs()).toBeUndefined();
  });

  it('tells why a document is refused, keeps it, and tries the next change', async () => {
    server.answer = 'refuse';
    autosave.changed(sign(2));
    await jest.advanceTimersByTimeAsync(600);
    expect(state).toMatchObject({ kind: 'refused', reason: 'blank.thickness: is wrong' });
    expect(drafts.read('a')!.document.blank.thickness).toBe(2);
    server.answer = 'take';
    autosave.changed(sign(3));
    await jest.advanceTimersByTimeAsync(600);
    expect(state.kind).toBe('saved');
  });
});
