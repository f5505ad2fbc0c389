import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import type { AddedFont } from '@plain-relief/api';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import { Piscina } from 'piscina';
import { Op, QueryTypes } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { threadFile } from '../../platform/http/threads.js';
import type { ReadFont } from './font-thread.js';

export interface LoadedFont {
  readonly entry: FontEntry;
  readonly bytes: Uint8Array;
}

/** Where the page and the books of fonts find a font of the shop's, below the folder of fonts. */
export const shopFile = (id: string): string => `shop/${id}.ttf`;
export const shopFontId = (file: string): string | undefined => /^shop\/([\w-]+)\.ttf$/u.exec(file)?.[1];

/** The fonts that a shop added to those that come with the application. */
export class ShopFonts {
  constructor(private readonly db: Database) {}

  async entries(): Promise<FontEntry[]> {
    const rows = await this.db.ShopFont.findAll({ attributes: ['entry'], order: [['createdAt', 'ASC']] });
    return rows.map(({ entry }) => entry);
  }

  async list() {
    const rows = await this.db.ShopFont.findAll({
      attributes: ['id', 'entry', 'isRestricted', 'fileName', 'createdAt'],
      order: [['createdAt', 'ASC']],
    });
    return rows.map(({ id, entry, isRestricted, fileName, createdAt }) => ({ id, entry, isRestricted, fileName, createdAt }));
  }

  async bytes(id: string): Promise<Buffer> {
    const row = await this.db.ShopFont.findByPk(id.slice(0, 64), { attributes: ['content'] });
    if (!row) throw errors.notFound('font', id);
    return row.content;
  }

  /** Those that a sign is set in, loaded. */
  async usedBy(sign: Sign): Promise<LoadedFont[]> {
    const rows = await this.db.ShopFont.findAll({ where: { id: { [Op.in]: fontsOf(sign) } } });
    return rows.map(({ entry, content }) => ({ entry, bytes: new Uint8Array(content) }));
  }

  /** Takes a font out that no sign is set in. */
  async remove(id: string): Promise<void> {
    const row = await this.db.ShopFont.findByPk(id.slice(0, 64));
    if (!row) throw errors.notFound('font', id);
    const used = await this.db.sequelize.query<{ title: string }>(
      `SELECT signs.title FROM signs JOIN jobs ON jobs.id = signs.job_id AND jobs.removed_at IS NULL WHERE signs.removed_at IS NULL AND EXISTS (SELECT 1 FROM jsonb_array_elements(document->'parts') part WHERE part->>'font' = :id) ORDER BY signs.title LIMIT 4`,
      { replacements: { id }, type: QueryTypes.SELECT },
    );
    if (used.length > 0) throw errors.fontInUse(`${row.entry.family} ${row.entry.style}`, used.map(({ title }) => title)); // prettier-ignore
    await row.destroy();
  }
}

const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Reads uploaded fonts in a thread of their own, which is ended when one takes too long, and adds them to the shop's. */
export class FontDoor {
  private readonly threads = new Piscina({
    filename: threadFile('./font-thread.js', import.meta.url),
    minThreads: 0,
    maxThreads: 1,
    maxQueue: 20,
    resourceLimits: { maxOldGenerationSizeMb: 300 },
  });

  /** Those that come with the application, by what is in their files. */
  private shippedDigests: Promise<ReadonlyMap<string, FontEntry>> | undefined;

  constructor(
    private readonly db: Database,
    private readonly fontsDir: string,
    private readonly shipped: readonly FontEntry[],
  ) {}

  /** Adds a font; one that is at hand already is not added again. */
  async add(fileName: string, bytes: Buffer): Promise<AddedFont> {
    const read = await this.read(fileName, bytes);
    if (typeof read === 'string') throw errors.badRequest([{ path: '', message: read }]);
    const digest = digestOf(read.content);
    this.shippedDigests ??= this.readShipped();
    const known = (await this.shippedDigests).get(digest) ?? (await this.db.ShopFont.findOne({ where: { digest } }))?.entry;
    if (known) return { entry: known, isKnown: true };
    const id = await this.freeId(`${read.family || fileName.slice(0, -extname(fileName).length)} ${read.style}`);
    const entry: FontEntry = {
      id,
      family: (read.family || fileName).slice(0, 80),
      style: read.style.slice(0, 40),
      class: 'fonts of the shop',
      kind: 'outline',
      file: shopFile(id),
      coverage: read.coverage,
      ...(read.proportions && { proportions: read.proportions }),
    };
    const { isRestricted } = read;
    const row = { id, entry, isRestricted, fileName, digest, content: Buffer.from(read.content), createdAt: new Date() };
    await this.db.ShopFont.create(row);
    return { entry, isKnown: false };
  }

  private async readShipped(): Promise<ReadonlyMap<string, FontEntry>> {
    const outlines = this.shipped.filter(({ kind }) => kind === 'outline');
    const digests = outlines.map(async (entry) => [digestOf(await readFile(join(this.fontsDir, entry.file))), entry] as const);
    return new Map(await Promise.all(digests));
  }

  private async read(name: string, bytes: Buffer): Promise<ReadFont | string> {
    const running = new AbortController();
    const timer = setTimeout(() => running.abort(), 10_000);
    try {
      return (await this.threads.run({ name, bytes: new Uint8Array(bytes) }, { signal: running.signal })) as ReadFont | string;
    } catch {
      return `The font “${name}” cannot be used: it took too long to read, or too much memory.`;
    } finally {
      clearTimeout(timer);
    }
  }

  private async freeId(name: string): Promise<string> {
    const stem = `shop-${name.toLowerCase().normalize('NFKD').replace(/[^a-z0-9]+/gu, '-').replace(/^-|-$/gu, '').slice(0, 40) || 'font'}`; // prettier-ignore
    const taken = new Set([...this.shipped.map(({ id }) => id), ...(await this.db.ShopFont.findAll({ attributes: ['id'] })).map(({ id }) => id)]); // prettier-ignore
    let id = stem;
    for (let n = 2; taken.has(id); n++) id = `${stem}-${n}`;
    return id;
  }

  close(): Promise<void> {
    return this.threads.destroy();
  }
}
