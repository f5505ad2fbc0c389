import { createServer, type Server } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { TestServer } from '../../testing/server.js';
import { PostOffice } from './post-office.js';

let server: TestServer;
let jobId: string;
beforeAll(async () => {
  server = await TestServer.start();
  const wanted = { customer: 'Osprey Point Ferry', title: 'Plates', dueOn: null, quantity: 1, unit: 'in' };
  jobId = (await server.call<{ id: string }>('POST', '/api/jobs', wanted)).body.id;
});
afterAll(() => server?.stop());
beforeEach(() => server.db.Mail.destroy({ where: {} }));

const FROM = 'Millrace Signworks <proofs@millrace.example.org>';
const write = (post: PostOffice, text = 'Good day') =>
  server.db.sequelize.transaction((transaction) =>
    post.write({ jobId, to: 'works@ospreypoint.example.org', subject: 'Proof A: Plates', text }, transaction),
  );
const stateOf = async (id: string) => (await server.db.Mail.findByPk(id))!.state;

/** A mail server on loopback that takes every letter (SMTP, RFC 5321); what it was told is kept. */
async function mailServer(): Promise<{ url: string; told: string[]; server: Server }> {
  const told: string[] = [];
  const listening = createServer((socket) => {
    let isLetter = false;
    socket.write('220 mail.example.org\r\n');
    socket.on('data', (chunk) => {
      for (const line of String(chunk).split('\r\n').slice(0, -1)) {
        told.push(line);
        if (isLetter && line !== '.') continue;
        const isData = line.toUpperCase() === 'DATA';
        socket.write(isData ? '354 go on\r\n' : line.toUpperCase() === 'QUIT' ? '221 bye\r\n' : '250 ok\r\n');
        isLetter = isData;
      }
    });
    socket.on('error', () => {});
  });
  await new Promise<void>((done) => listening.listen(0, '127.0.0.1', done));
  return { url: `smtp://127.0.0.1:${(listening.address() as { port: number }).port}`, told, server: listening };
}

describe('the post office', () => {
  it('keeps letters in the outbox where there is no mail server, and says so', async () => {
    const post = new PostOffice(server.db, { mailFrom: FROM });
    const id = await write(post);
    expect([post.isSimulated, await stateOf(id)]).toEqual([true, 'waiting']);
    await post.send();
    expect(await stateOf(id)).toBe('sent');
  });

  it('hands letters to a mail server, each once, however many send at the same moment', async () => {
    const { url, told, server: listening } = await mailServer();
    const post = new PostOffice(server.db, { mailFrom: FROM, mailServer: url });
    const ids = [await write(post, 'The first letter'), await write(post, 'Grüße, the second')];
    await Promise.all([post.send(), post.send(), post.send()]);
    await post.send();
    listening.close();
    expect(await Promise.all(ids.map(stateOf))).toEqual(['sent', 'sent']);
    expect(told.filter((line) => line.startsWith('RCPT TO:<works@ospreypoint.example.org>'))).toHaveLength(2);
    expect(told.filter((line) => line === 'The first letter')).toHaveLength(1);
    expect(told).toContain('Subject: Proof A: Plates');
  });

  it('tells what a mail server that is away has said, and sends the letter again when asked', async () => {
    const { url, server: listening } = await mailServer();
    await new Promise((done) => listening.close(done));
    const id = await write(new PostOffice(server.db, { mailFrom: FROM }));
    await new PostOffice(server.db, { mailFrom: FROM, mailServer: url }).send();
    const failed = (await server.db.Mail.findByPk(id))!;
    expect([failed.state, failed.error]).toEqual(['failed', expect.stringContaining('ECONNREFUSED')]);
    expect((await server.call('POST', `/api/outbox/${id}/again`, {})).status).toBe(204);
    expect(await stateOf(id)).toBe('sent');
    expect((await server.call('POST', `/api/outbox/${id}/again`, {})).status).toBe(404);
    expect((await server.call('POST', '/api/outbox/nothing/again', {})).status).toBe(404);
  });

  it('takes up a letter that a crash left half sent, once it has been silent for long', async () => {
    const post = new PostOffice(server.db, { mailFrom: FROM });
    const id = await write(post);
    await server.db.Mail.update({ state: 'sending', sentAt: new Date() }, { where: { id } });
    await post.send();
    expect(await stateOf(id)).toBe('sending');
    await post.send(new Date(Date.now() + 180_000));
    expect(await stateOf(id)).toBe('sent');
  });
});
