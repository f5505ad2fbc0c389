import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newSign, newText, setField } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import { renamedFont } from '../../../../core/testing/fonts.js';
import { TestServer } from '../../testing/server.js';
import { PNG } from 'pngjs';

interface Refusal {
  readonly code: string;
  readonly message: string;
}
interface Kept {
  readonly entry: FontEntry;
  readonly isKnown: boolean;
}

const { compress } = createRequire(import.meta.url)('wawoff2') as { compress(bytes: Uint8Array): Promise<Uint8Array> };
const SHIPPED = readFileSync(new URL('../../../../fonts/cinzel/Cinzel_700Bold.ttf', import.meta.url));
const TTF = Buffer.from(renamedFont(SHIPPED, 'Cinzel', 'Tinsel'));

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

/** Its outlines are all of one byte. */
function damaged(font: Buffer): Buffer {
  const out = Buffer.from(font);
  const glyf = out.indexOf('glyf');
  out.fill(7, out.readUInt32BE(glyf + 8), out.readUInt32BE(glyf + 8) + out.readUInt32BE(glyf + 12));
  return out;
}

const upload = <T>(name: string, bytes: Uint8Array) => server.upload<T>('/api/shop/fonts', name, bytes);

async function makeSign(font: string) {
  const job = { customer: 'Fernhollow Arboretum', title: 'Entrance', dueOn: null, quantity: 1, unit: 'mm' };
  const { body } = await server.call<{ id: string }>('POST', '/api/jobs', job);
  const sign = newSign('West gate', 'mm');
  sign.parts.push({ ...newText(sign, font), words: 'FERN' });
  return server.call<{ id: string } & Refusal>('POST', `/api/jobs/${body.id}/signs`, { title: 'West gate', document: sign });
}

describe('fonts of the shop', () => {
  it('are read whatever wraps them, kept once, and set on signs, in pictures too', async () => {
    const first = await upload<Kept>('Gate.ttf', TTF);
    const { family, style, id } = first.body.entry;
    expect([first.status, family, style, first.body.isKnown]).toEqual([201, 'Tinsel', 'Bold', false]);
    const again = await upload<Kept>('Gate again.woff2', await compress(TTF));
    // The same letters: the wrapping may order its tables otherwise, and then it is another file.
    expect([201, again.body.entry.coverage]).toEqual([again.status, first.body.entry.coverage]);
    expect((await upload<Kept>('Gate.ttf', TTF)).body).toEqual({ entry: first.body.entry, isKnown: true });
    const shipped = await upload<Kept>('Cinzel.ttf', SHIPPED);
    expect(shipped.body).toMatchObject({ entry: { id: 'cinzel-bold' }, isKnown: true });

    // Of its capitals, as the catalogue has them of the same letters.
    expect(first.body.entry.proportions).toEqual(shipped.body.entry.proportions);
    expect(shipped.body.entry.proportions!.stroke).toBeGreaterThan(0.1);

    const file = await server.inject({ method: 'GET', url: `/fonts/${first.body.entry.file}` });
    expect(file.headers['content-type']).toBe('font/ttf');
    expect(file.rawPayload.equals(TTF)).toBe(true);

    const made = await makeSign(id);
    expect(made.status).toBe(201);
    const kept = await server.call<Refusal>('DELETE', `/api/shop/fonts/${id}`);
    expect([kept.status, kept.body.code]).toEqual([409, 'FONT_IN_USE']);
    expect(kept.body.message).toContain('“West gate” is set in it');
    expect((await server.call('DELETE', `/api/signs/${made.body.id}`)).status).toBe(204);
    expect((await server.call('DELETE', `/api/shop/fonts/${id}`)).status).toBe(204);
    const gone = await makeSign(id);
    expect([gone.status, gone.body.message]).toEqual([400, expect.stringContaining('is not a font at hand')]);
  });

  it.each<[string, Uint8Array, string]>([
    ['words', new TextEncoder().encode('this is no font'), 'it is none: choose a file in one of the formats'],
    ['a cut-off font', TTF.subarray(0, 900), 'its file is cut off: fetch it once more'],
    ['a font cut off in its last table', TTF.subarray(0, TTF.length - 100), 'its file is cut off: fetch it once more'],
    ['a font with other bytes in it', damaged(TTF), 'its file is damaged: fetch it once more'],
    ['a damaged WOFF2', Uint8Array.from([...new TextEncoder().encode('wOF2'), ...new Array<number>(100).fill(7)]), 'larger than'],
    [
      'a WOFF2 of nothing',
      Uint8Array.from([...new TextEncoder().encode('wOF2'), ...new Array<number>(100).fill(0)]),
      'its file is damaged',
    ],
  ])('%s is refused with a sentence', async (name, bytes, sentence) => {
    const { status, body } = await upload<Refusal>(`${name}.ttf`, bytes);
    expect([status, body.code]).toEqual([400, 'BAD_REQUEST']);
    expect(body.message).toContain(sentence);
  });

  it('are refused without content, too large, or with other fields', async () => {
    const post = async (body: unknown) => (await server.call('POST', '/api/shop/fonts', body)).status;
    expect(await post({ name: 'x.ttf' })).toBe(400);
    expect(await post(new FormData())).toBe(400);
    expect((await upload(' ', TTF)).status).toBe(400);
    expect((await upload('x.ttf', new Uint8Array(0))).status).toBe(400);
    const large = await upload<Refusal>('x.ttf', new Uint8Array(10_000_001));
    expect([large.status, large.body.message]).toEqual([413, expect.stringContaining('9 MB')]);
    const two = new FormData();
    for (const name of ['x.ttf', 'y.ttf']) two.append('file', new Blob([TTF as BlobPart]), name);
    expect(await post(two)).toBe(400);
    expect((await server.call('GET', '/fonts/shop/nothing.ttf')).status).toBe(404);
    expect((await server.call('DELETE', `/api/shop/fonts/${'x'.repeat(90)}`)).status).toBe(404);
  });
});

describe('usual blanks', () => {
  it('are kept by name, judged as those of signs are, and taken out', async () => {
    const { blank } = newSign('x', 'mm');
    const kept = await server.call<{ id: string }>('POST', '/api/shop/blanks', { name: 'Gate plate', blank });
    expect(kept).toMatchObject({ status: 201, body: { name: 'Gate plate', blank } });
    const bad = await server.call<Refusal>('POST', '/api/shop/blanks', { name: 'Thin', blank: { ...blank, thickness: 0 } });
    expect([bad.status, bad.body.message]).toEqual([400, expect.stringContaining('blank.thickness')]);
    expect((await server.call<unknown[]>('GET', '/api/shop/blanks')).body).toHaveLength(1);
    expect((await server.call('DELETE', `/api/shop/blanks/${kept.body.id}`)).status).toBe(204);
    expect((await server.call('DELETE', `/api/shop/blanks/${kept.body.id}`)).status).toBe(404);
  });
});

describe('kinds of signs', () => {
  it('are kept by their names, drawn, and taken out again; a document that is none is refused', async () => {
    const sign = newSign('West gate', 'mm');
    sign.parts.push({ ...newText(sign, 'barlow-semibold'), words: 'OAK' });
    const made = await server.call<{ id: string } & Refusal>('POST', '/api/shop/kinds', { name: ' Gate ', document: sign });
    expect([made.status, made.body]).toEqual([201, { id: made.body.id, name: 'Gate' }]);
    expect((await server.call('GET', '/api/shop/kinds')).body).toEqual([{ id: made.body.id, name: 'Gate' }]);
    const kept = await server.call<{ document: { parts: unknown[] } }>('GET', `/api/shop/kinds/${made.body.id}`);
    expect(kept.body.document.parts).toEqual(sign.parts);
    const refused = await server.call<Refusal>('POST', '/api/shop/kinds', { name: 'Odd', document: { parts: [] } });
    expect(refused.status).toBe(400);
    // Pictures of what the shop keeps, and of what every shop has.
    const seen: Buffer[] = [];
    for (const id of [made.body.id, 'nameplate']) {
      const { statusCode, headers, rawPayload } = await server.inject({ method: 'GET', url: `/api/kinds/${id}/picture.png` });
      expect([statusCode, headers['content-type']]).toEqual([200, 'image/png']);
      seen.push(rawPayload);
      const { width, height } = PNG.sync.read(rawPayload);
      expect([width, height]).toEqual([360, 240]);
    }
    expect(seen[0].equals(seen[1])).toBe(false);
    expect((await server.inject({ method: 'GET', url: '/api/kinds/none/picture.png' })).statusCode).toBe(404);
    expect((await server.call('DELETE', `/api/shop/kinds/${made.body.id}`)).status).toBe(204);
    expect((await server.call('GET', `/api/shop/kinds/${made.body.id}`)).status).toBe(404);
    expect((await server.call('DELETE', '/api/shop/kinds/panel')).status).toBe(404);
  });
});

describe('finishes of the shop', () => {
  it('are kept, listed by name, worn by signs, and taken out again', async () => {
    const add = (finish: object) => server.call<{ id: string } & Refusal>('POST', '/api/shop/finishes', finish);
    const made = await add({ name: ' Traffic white ', colour: '#f1f0ea', gloss: 'gloss' });
    expect([made.status, made.body]).toMatchObject([201, { name: 'Traffic white', colour: '#f1f0ea', gloss: 'gloss' }]);
    await add({ name: 'Bog oak', colour: '#3a3029', gloss: 'matt' });
    const list = await server.call<{ id: string; name: string }[]>('GET', '/api/shop/finishes');
    expect(list.body.map(({ name }) => name)).toEqual(['Bog oak', 'Traffic white']);
    // Worn by a sign, a finish is one of its own and stays with it.
    const sign = newSign('West gate', 'mm');
    setField(sign, ['blank', 'finish', 'face'], made.body.id, { finishes: list.body as never });
    expect([sign.blank.finish?.face, sign.finishes?.[0].name]).toEqual([made.body.id, 'Traffic white']);
    expect((await server.call('DELETE', `/api/shop/finishes/${made.body.id}`)).status).toBe(204);
    expect((await server.call('DELETE', `/api/shop/finishes/${made.body.id}`)).status).toBe(404);
    expect((await server.call<unknown[]>('GET', '/api/shop/finishes')).body).toHaveLength(1);
  });

  it.each([
    ['a colour that is none', { name: 'Red', colour: 'red', gloss: 'matt' }, 'must be a colour such as "#3f7d6e"'],
    ['a surface that is none', { name: 'Red', colour: '#ff0000', gloss: 'sparkling' }, 'must be one of "matt"'],
    ['no name', { name: '  ', colour: '#ff0000', gloss: 'matt' }, 'name'],
    ['a field too many', { name: 'Red', colour: '#ff0000', gloss: 'matt', price: 3 }, 'price'],
  ])('refuse %s', async (_, finish, sentence) => {
    const { status, body } = await server.call<Refusal>('POST', '/api/shop/finishes', finish);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(status).toBeLessThan(500);
    expect(JSON.stringify(body)).toContain(sentence.replace(/"/gu, '\\"'));
  });
});

describe('what the shop says of itself', () => {
  it('is kept, with a logo that can be printed and no other', async () => {
    const png = PNG.sync.write(new PNG({ width: 3, height: 3 })).toString('base64');
    const card = { name: 'Millrace Signworks', contact: '', terms: 'Half is due.', logo: png };
    expect((await server.call('PUT', '/api/shop/card', card)).status).toBe(200);
    expect((await server.call('GET', '/api/shop/card')).body).toEqual(card);
    const broken = Buffer.from(png, 'base64').subarray(0, 40).toString('base64');
    for (const logo of [broken, Buffer.from('<svg/>').toString('base64'), 'not base 64!'])
      expect((await server.call('PUT', '/api/shop/card', { ...card, logo })).status).toBeGreaterThanOrEqual(400);
    expect((await server.call('PUT', '/api/shop/card', { ...card, name: ' ' })).status).toBe(400);
    expect((await server.call('GET', '/api/shop/card')).body).toEqual(card);
  });

  it('has layouts of sheets under names', async () => {
    const layout = { paper: 'A3', isUpright: false, isInBothUnits: true, shows: ['ticket'] };
    const { body } = await server.call<{ id: string }>('POST', '/api/shop/layouts', { name: ' Large ', layout });
    expect((await server.call('GET', '/api/shop/layouts')).body).toEqual([{ id: body.id, name: 'Large', layout }]);
    expect((await server.call('POST', '/api/shop/layouts', { name: 'Odd', layout: { ...layout, colour: 'red' } })).status).toBe(
      400,
    );
    expect((await server.call('DELETE', `/api/shop/layouts/${body.id}`)).status).toBe(204);
    expect((await server.call('DELETE', `/api/shop/layouts/${body.id}`)).status).toBe(404);
  });
});
