import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { buildApp } from '../../app.js';
import { Bin } from '../jobs/bin.js';
import { TestServer } from '../../testing/server.js';

let server: TestServer;
let sign: { id: string; document: Record<string, unknown> };

beforeAll(async () => {
  server = await TestServer.start();
  const wanted = { customer: 'Fernhollow Arboretum', title: 'Gate', dueOn: null, quantity: 1, unit: 'mm' };
  const { id } = (await server.call<{ id: string }>('POST', '/api/jobs', wanted)).body;
  sign = (await server.call<typeof sign>('POST', `/api/jobs/${id}/signs`, { title: 'West gate' })).body;
});
afterAll(() => server?.stop());

const picture = (known?: string) =>
  server.inject({
    method: 'GET',
    url: `/api/signs/${sign.id}/picture.png`,
    headers: known ? { 'if-none-match': known } : {},
  });
const rows = () => server.db.KeptPicture.findAll({ where: { subject: `sign ${sign.id}` } });

describe('pictures of signs', () => {
  it('are made once, kept in the database, and not sent to whom has them', async () => {
    const [first, atOnce] = await Promise.all([picture(), picture()]);
    expect(first.rawPayload.subarray(1, 4).toString()).toBe('PNG');
    expect(atOnce.rawPayload).toEqual(first.rawPayload);
    const [row, ...others] = await rows();
    expect(others).toEqual([]);
    expect(row.content).toEqual(first.rawPayload);
    await row.update({ content: Buffer.from('from the database') });
    // Another server on the same database, which remembers nothing.
    const other = await buildApp(server.settings, server.db, async () => undefined);
    const headers = { cookie: server.cookie };
    expect((await other.inject({ method: 'GET', url: `/api/signs/${sign.id}/picture.png`, headers })).payload).toBe(
      'from the database',
    );
    await other.close();
    const tag = first.headers.etag as string;
    for (const known of [tag, `W/${tag}`, `"other", ${tag}`]) {
      const again = await picture(known);
      expect([again.statusCode, again.rawPayload.length, again.headers.etag]).toEqual([304, 0, tag]);
    }
    expect((await picture('"other"')).statusCode).toBe(200);
  });

  it('are made anew for a new revision, in the place of the old one, and go with their sign', async () => {
    const before = await picture();
    const document = { ...sign.document, title: 'East gate' };
    expect((await server.call('PUT', `/api/signs/${sign.id}`, { base: 1, document })).status).toBe(200);
    const after = await picture(before.headers.etag as string);
    expect([after.statusCode, after.rawPayload.subarray(1, 4).toString()]).toEqual([200, 'PNG']);
    expect(await rows()).toHaveLength(1);
    expect((await server.call('DELETE', `/api/signs/${sign.id}`)).status).toBe(204);
    // In the bin it keeps it; what is emptied takes it along.
    expect(await rows()).toHaveLength(1);
    await new Bin(server.db).empty(new Date(Date.now() + 31 * 24 * 60 * 60 * 1000));
    expect(await rows()).toEqual([]);
  });
});
