import { connect, type Socket, type AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Controller } from './controller.js';
import { listen } from './listen.js';

let machine: Awaited<ReturnType<typeof listen>>;
let port: number;
const sockets: Socket[] = [];

beforeAll(async () => {
  machine = await listen(new Controller(), 0);
  ({ port } = machine.server.address() as AddressInfo);
});
afterAll(() => {
  for (const socket of sockets) socket.destroy();
  machine.close();
});

/** Says something, and gives as many lines of answers as are waited for. */
function talk(said: readonly (string | Buffer)[], answers: number): Promise<string[]> {
  return new Promise((done, failed) => {
    const socket = connect(port, '127.0.0.1');
    sockets.push(socket);
    let heard = '';
    socket.on('data', (chunk) => {
      heard += String(chunk);
      const lines = heard.split('\n').slice(0, -1);
      if (lines.length < answers) return;
      socket.end();
      done(lines);
    });
    socket.on('error', failed);
    socket.on('close', () => done(heard.split('\n').slice(0, -1)));
    for (const each of said) socket.write(each);
  });
}

const PROGRAM = 'G21 G90\nT1 M6\nM3 S100\nG0 X1 Y1 Z5\nG1 X50 F6000\nM30\n';

describe('the line to the practice machine', () => {
  it('takes a program in pieces, runs it, waits for the tool, and tells', async () => {
    const bytes = Buffer.from(PROGRAM);
    const answers = await talk(
      ['hello\nfaster 1000\ntake ', `${bytes.length} run-7 part one.ngc\n`, bytes.subarray(0, 10), bytes.subarray(10), 'run\n'],
      4,
    );
    expect(answers.slice(1)).toEqual(['ok', 'ok', 'ok']);
    expect(answers[0]).toMatch(/^ok .*stand-in/u);
    for (let tries = 0; tries < 100; tries++) {
      const [state] = await talk(['state\n'], 1);
      const report = JSON.parse(state.replace(/^ok /u, '')) as {
        state: string;
        job?: { id: string; name: string; isDone: boolean };
      };
      expect(report.job).toMatchObject({ id: 'run-7', name: 'part one.ngc' });
      if (report.state === 'tool') await talk(['tool 1\n'], 1);
      if (report.job?.isDone) return;
      await new Promise((done) => setTimeout(done, 30));
    }
    throw new Error('It did not end.');
  });

  it.each<[string, RegExp]>([
    ['dance\n', /^no “dance” is no word of this machine: hello, /u],
    ['take 0 a b\n', /^no A program has 1 to/u],
    ['take many a b\n', /^no bytes is “many”/u],
    ['run from\n', /^no line is “”/u],
    ['run at 5\n', /^no It is “run”/u],
    ['feed 1000\n', /^no .*10 to 200/u],
    ['door ajar\n', /^no “ajar” must be open or closed/u],
    ['be {"area":{}}\n', /^no area\.width is missing/u],
    ['be nothing\n', /^no /u],
    ['zero 1 2\n', /^no z is “”/u],
    ['hold\n', /^no Nothing runs/u],
    ['take 5 a b\nhello', /^no .*(?:cannot be read|no moves)/u],
  ])('answers %j with a sentence', async (line, words) => {
    const [answer] = await talk([line], 1);
    expect(answer).toMatch(words);
  });

  it('outlives lines without an end, and people who go in the middle of a program', async () => {
    expect(await talk(['x'.repeat(200_000)], 1)).toEqual(['no A line is no longer than 100000 bytes.']);
    const gone = connect(port, '127.0.0.1', () => gone.write('take 5000 a b\nG21', () => gone.destroy()));
    await new Promise((done) => gone.on('close', done));
    expect((await talk(['hello\n'], 1))[0]).toMatch(/^ok/u);
  });
});
