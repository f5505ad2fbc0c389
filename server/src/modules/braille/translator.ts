import { spawn } from 'node:child_process';
import { BLANK_CELL, type BrailleTable } from '@plain-relief/core/braille';
import { LRUCache } from 'lru-cache';
import { errors } from '../../platform/errors.js';

/** How many translators run at once, for how long one may, and how much it may say. */
const AT_ONCE = 4;
const LONGEST_MS = 2000;
const MOST_BYTES = 200_000;
/** The program takes lines of so many letters at least; longer ones go in pieces. */
const LINE = 300;
const KEPT = 2000;

/** Words as cells, and the letters that have none in the table. */
export interface Translation {
  readonly cells: string;
  readonly missing: readonly string[];
}

/**
 * Braille by liblouis (Debian's liblouis-bin), a process for each question, ended when it takes longer than 2 s; answers are kept by table
 * and words.
 */
export class BrailleTranslator {
  private readonly kept = new LRUCache<string, Translation & { readonly words?: string }>({ max: KEPT });
  private readonly waiting: (() => void)[] = [];
  private running = 0;

  /** @param program another name for the translator, such as that of one that hangs */
  constructor(
    private readonly program = 'lou_translate',
    private readonly longestMs = LONGEST_MS,
  ) {}

  /**
   * The cells of words, a line for each of their lines.
   * @throws ServerError without the program, where it hangs, and where it does not know the table
   */
  async cellsOf(words: string, table: BrailleTable): Promise<Translation> {
    const key = `${table.id}\n${words}`;
    const known = this.kept.get(key);
    if (known) return known;
    const lines = words.split('\n').map(plainLine);
    const pieces = lines.flatMap((line, at) => piecesOf(line).map((piece) => ({ piece, at })));
    // Letters are asked for one by one, too: of what a table does not know the cells are its number, or nothing.
    const letters = [...new Set(lines.join(''))].filter((letter) => letter !== ' ');
    const answer = await this.ask('--forward', table, [...pieces.map(({ piece }) => piece), ...letters]);
    const cells = lines.map((_, line) => answer.filter((__, i) => pieces[i]?.at === line).join(BLANK_CELL));
    const missing = letters.filter((_, i) => !isKnown(answer[pieces.length + i]));
    const translation = { cells: cells.join('\n').replace(BEYOND_SIX, ''), missing };
    this.kept.set(key, translation);
    return translation;
  }

  /** What cells say, as far as a program can tell. */
  async wordsOf(cells: string, table: BrailleTable): Promise<string> {
    const key = `back ${table.id}\n${cells}`;
    const known = this.kept.get(key)?.words;
    if (known !== undefined) return known;
    const lines = cells.split('\n');
    const answer = await this.ask(
      '--backward',
      table,
      lines.map((line) => line.slice(0, LINE)),
    );
    const words = lines.map((_, i) => answer[i]).join('\n');
    this.kept.set(key, { cells, missing: [], words });
    return words;
  }

  private async ask(direction: '--forward' | '--backward', table: BrailleTable, lines: readonly string[]): Promise<string[]> {
    await this.turn();
    try {
      const answer = await this.run([direction, `unicode.dis,${table.file}`], lines.map((line) => `${line}\n`).join(''));
      const out = answer.split('\n');
      if (out.length < lines.length) throw errors.noBrailleTable(table.name);
      return out;
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }

  private async turn(): Promise<void> {
    if (this.running >= AT_ONCE) await new Promise<void>((go) => this.waiting.push(go));
    this.running++;
  }

  private run(args: readonly string[], input: string): Promise<string> {
    return new Promise((resolve, reject) => {
      const child = spawn(this.program, args, {
        stdio: ['pipe', 'pipe', 'ignore'],
        timeout: this.longestMs,
        killSignal: 'SIGKILL',
      });
      let out = '';
      child.stdout.setEncoding('utf8').on('data', (text: string) => {
        out += text;
        if (out.length > MOST_BYTES) child.kill('SIGKILL');
      });
      child.on('error', () => reject(errors.noTranslator()));
      child.on('close', (_, signal) => (signal ? reject(errors.translatorHangs(this.longestMs / 1000)) : resolve(out)));
      // One that ends before it has read everything is told by what it said.
      child.stdin.on('error', () => undefined);
      child.stdin.end(input);
    });
  }
}

const BEYOND_SIX = /[^\u2800-\u283f\n]/gu;
const isKnown = (cells = ''): boolean => cells.replaceAll(BLANK_CELL, '') !== '' && cells.search(BEYOND_SIX) < 0;

/** Without what is no letter: control characters, and halves of letters. */
const plainLine = (line: string): string =>
  line
    .replace(/\p{C}|\ufffd/gu, ' ')
    .replace(/\s+/gu, ' ')
    .trim();

/** A line in pieces that end with words where they can. */
function piecesOf(line: string): string[] {
  const out = [''];
  for (const word of line.split(' ')) {
    for (let at = 0; at === 0 || at < word.length; at += LINE) {
      const piece = word.slice(at, at + LINE);
      const last = out[out.length - 1];
      if (last === '') out[out.length - 1] = piece;
      else if (last.length + 1 + piece.length <= LINE) out[out.length - 1] = `${last} ${piece}`;
      else out.push(piece);
    }
  }
  return out;
}
