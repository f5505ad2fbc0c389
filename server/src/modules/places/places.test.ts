import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { newPlace, type Place } from '@plain-relief/core/in-place';
import { newText, type Sign } from '@plain-relief/core/sign';
import { PNG } from 'pngjs';
import { TestServer } from '../../testing/server.js';

interface Kept {
  readonly id: string;
  readonly title: string;
  readonly revision: number;
  readonly document: Place;
}
interface Refusal {
  readonly code: string;
  readonly message: string;
}

const NOWHERE = '00000000-0000-4000-8000-000000000000';
let server: TestServer;
let job: { id: string };
let sign: { id: string; revision: number; document: Sign };

beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server?.stop());
beforeEach(async () => {
  const wanted = { customer: 'Quill Street Library', title: 'Reading room', dueOn: null, quantity: 1, unit: 'mm' };
  job = (await server.call<typeof job>('POST', '/api/jobs', wanted)).body;
  sign = (await server.call<typeof sign>('POST', `/api/jobs/${job.id}/signs`, { title: 'Quiet study' })).body;
  const line = { ...newText(sign.document, 'barlow-semibold'), words: 'Quiet study' };
  const document = { ...sign.document, parts: [line] };
  await server.call('PUT', `/api/signs/${sign.id}`, { base: sign.revision, document });
});

/** A wall of one colour, as a PNG file. */
function photograph(width = 320, height = 240): Buffer {
  const png = new PNG({ width, height });
  png.data.fill(180);
  return PNG.sync.write(png);
}

async function kept(name: string, content: Buffer): Promise<string> {
  const head = `--x\r\nContent-Disposition: form-data; name="file"; filename="${name}"\r\nContent-Type: application/octet-stream\r\n\r\n`;
  const payload = Buffer.concat([Buffer.from(head), content, Buffer.from('\r\n--x--\r\n')]);
  const headers = { 'content-type': 'multipart/form-data; boundary=x' };
  const answer = await server.inject({ method: 'POST', url: `/api/jobs/${job.id}/files`, payload, headers });
  return answer.json<{ id: string }>().id;
}

const hung = (): Place => newPlace([{ id: sign.id, width: 200 }]);
const onPhotograph = (file: string): Place => ({
  ...hung(),
  ground: {
    kind: 'photograph',
    file,
    width: 320,
    height: 240,
    scale: { kind: 'corners', width: 900, height: 600, points: [{ x: 40, y: 40 }, { x: 280, y: 60 }, { x: 280, y: 180 }, { x: 40, y: 200 }] }, // prettier-ignore
  },
});
const create = (document: unknown, title = 'Beside the door') =>
  server.call<Kept & Refusal>('POST', `/api/jobs/${job.id}/places`, { title, document });
const proofed = async (more: object = {}) => {
  const wanted = { signs: [sign.id], recipient: 'desk@quillstreet.example.org', message: '', days: 14, ...more };
  const { body } = await server.call<{ id: string; address: string } & Refusal>('POST', `/api/jobs/${job.id}/proofs`, wanted);
  return { ...body, token: body.address?.split('/').at(-1) ?? '' };
};
interface Told { readonly places: readonly { readonly id: string; readonly title: string; readonly hasPhotograph: boolean; readonly width: number; readonly height: number }[] } // prettier-ignore

describe('signs as they will hang', () => {
  it('are kept with their job, changed, listed and removed', async () => {
    const { status, body } = await create(hung());
    expect([status, body.title, body.revision, body.document]).toEqual([201, 'Beside the door', 1, hung()]);
    const document = { ...hung(), view: { turn: -20, tilt: 4 } };
    const saved = await server.call<Kept>('PUT', `/api/places/${body.id}`, { base: 1, title: 'By the door', document });
    expect([saved.status, saved.body.revision, saved.body.document.view.turn]).toEqual([200, 2, -20]);
    const { body: all } = await server.call<{ places: Kept[] }>('GET', `/api/jobs/${job.id}/places`);
    expect(all.places.map(({ title }) => title)).toEqual(['By the door']);
    expect((await server.call('DELETE', `/api/places/${body.id}`)).status).toBe(204);
    expect((await server.call<Refusal>('DELETE', `/api/places/${body.id}`)).body.code).toBe('NOT_FOUND');
  });

  it('of two who change one at once the second is told, and loses nothing that the first kept', async () => {
    const { body } = await create(hung());
    const save = (title: string) => server.call<Refusal>('PUT', `/api/places/${body.id}`, { base: 1, title, document: hung() });
    const answers = await Promise.all([save('One'), save('Two')]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(answers.find(({ status }) => status === 409)!.body).toMatchObject({ code: 'STALE_PLACE', revision: 2, base: 1 });
  });

  it('are refused with the field where they cannot be', async () => {
    const file = await kept('wall.png', photograph());
    const place = onPhotograph(file);
    const crossed = structuredClone(place) as { ground: { scale: { points: unknown[] } } };
    crossed.ground.scale.points.reverse();
    crossed.ground.scale.points[0] = { x: 41, y: 41 };
    crossed.ground.scale.points[1] = { x: 42, y: 42 };
    const cases: [unknown, string][] = [
      [onPhotograph(NOWHERE), 'document.ground.file: The job has no such file'],
      [crossed, 'document.ground.scale: The four corners do not go round'],
      [newPlace([{ id: NOWHERE, width: 10 }]), 'document.signs.0.sign: The job has no sign'],
      [{ ...hung(), light: { ...hung().light, rise: 0 } }, 'document.light.rise'],
      [{ ...hung(), extra: 1 }, 'document.extra'],
      [{ ...hung(), signs: Array.from({ length: 13 }, () => hung().signs[0]) }, 'document.signs'],
      [{ ...hung(), ground: { kind: 'plain', colours: ['red'] } }, 'document.ground'],
      [{ ...hung(), ground: { kind: 'plain', colours: ['javascript:alert(1)'] } }, 'document.ground'],
      [{ ...hung(), reading: { ...hung().reading, distance: 1e9 } }, 'document.reading.distance'],
      [null, 'document'],
    ];
    for (const [document, message] of cases) {
      const { status, body } = await create(document);
      expect([status, body.code, body.message.includes(message) ? message : body.message]).toEqual([400, 'BAD_REQUEST', message]);
    }
    for (let i = 0; i < 20; i++) expect((await create(hung())).status).toBe(201);
    expect((await create(hung())).body.code).toBe('TOO_MANY_PLACES');
  });

  it('keep their photograph from being removed', async () => {
    const file = await kept('wall.png', photograph());
    const { body } = await create(onPhotograph(file));
    const refused = await server.call<Refusal>('DELETE', `/api/files/${file}`);
    expect([refused.status, refused.body.message]).toEqual([409, expect.stringContaining('photograph of the place “Beside the door”')]); // prettier-ignore
    await server.call('DELETE', `/api/places/${body.id}`);
    expect((await server.call('DELETE', `/api/files/${file}`)).status).toBe(204);
  });

  it('go with a proof as they are: the customer sees them, whatever is changed or removed afterwards', async () => {
    const file = await kept('wall.png', photograph());
    const { body: place } = await create(onPhotograph(file));
    await create({ ...hung(), signs: [] }, 'Nothing hangs there');
    const { token } = await proofed();
    await server.call('DELETE', `/api/places/${place.id}`);
    await server.call('DELETE', `/api/files/${file}`);
    const { body } = await server.call<Told>('GET', `/api/proof-links/${token}`, undefined, '');
    expect(body.places).toEqual([{ id: expect.any(String), title: 'Beside the door', hasPhotograph: true, width: 1600, height: 1200 }]); // prettier-ignore
    const at = `/api/proof-links/${token}/places/${body.places[0].id}`;
    const seen = await server.inject({ method: 'GET', url: `${at}/photograph` }, '');
    expect([seen.statusCode, seen.headers['content-type'], seen.rawPayload.equals(photograph())]).toEqual([
      200,
      'image/png',
      true,
    ]);
    const drawn = await server.inject({ method: 'GET', url: `${at}/picture.png` }, '');
    expect(drawn.statusCode).toBe(200);
    const png = PNG.sync.read(drawn.rawPayload);
    const opacity = (x: number, y: number): number => png.data[4 * (y * png.width + x) + 3];
    // The sign is in the middle of what was marked; the corner of the photograph is clear.
    expect([png.width, png.height, opacity(800, 600), opacity(20, 20)]).toEqual([1600, 1200, 255, 0]);
    // Of another proof it is none.
    const other = await proofed();
    expect((await server.inject({ method: 'GET', url: at.replace(token, other.token) + '/picture.png' }, '')).statusCode).toBe(
      404,
    );
  });

  it('are those that were chosen for a proof, and only the job’s own', async () => {
    const { body: one } = await create(hung(), 'One');
    await create(hung(), 'Two');
    const titles = async (more: object): Promise<string[]> => {
      const { token } = await proofed(more);
      return (await server.call<Told>('GET', `/api/proof-links/${token}`, undefined, '')).body.places.map(({ title }) => title);
    };
    expect(await titles({ places: [one.id] })).toEqual(['One']);
    expect(await titles({ places: [] })).toEqual([]);
    expect(await titles({})).toEqual(['One', 'Two']);
    expect((await proofed({ places: [NOWHERE] })).message).toContain('places.0: The job has no place');
  });
});
