import { BRAILLE_TABLES, type BrailleTable, brailleTable } from '@plain-relief/core/braille';
import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import type { BrailleTranslator } from './translator.js';

const asked = { config: { least: 'maker', isQuestion: true } } as const;

/** Words as cells of braille, and cells as words. */
export function brailleRoutes(app: FastifyInstance, translator: BrailleTranslator): void {
  endpoint(app, 'POST /braille', asked, ({ body: { words, table } }) => translator.cellsOf(words, tableOf(table)));
  endpoint(app, 'POST /braille/words', asked, async ({ body: { cells, table } }) => ({
    words: await translator.wordsOf(cells, tableOf(table)),
  }));
}

function tableOf(id: string): BrailleTable {
  const table = brailleTable(id);
  if (table) return table;
  throw errors.badRequest([
    {
      path: 'table',
      message: `“${id}” is not a table that is known: choose one of ${BRAILLE_TABLES.map((each) => each.id).join(', ')}.`,
    },
  ]);
}
