import { CELLS_PATTERN } from '@plain-relief/core/braille';
import { Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed } from './schema.js';

const Table = Type.String({ minLength: 1, maxLength: 40 });

/** The translator of braille. */
export const brailleEndpoints = {
  'POST /braille': {
    body: Type.Object({ words: Type.String({ maxLength: 4000 }), table: Table }, closed),
    /** `missing` are letters that have no cells in the table. */
    answer: Type.Object({ cells: Type.String(), missing: Type.Array(Type.String()) }),
  },
  'POST /braille/words': {
    body: Type.Object({ cells: Type.String({ maxLength: 8000, pattern: CELLS_PATTERN }), table: Table }, closed),
    answer: Type.Object({ words: Type.String() }),
  },
} as const satisfies EndpointTable;
