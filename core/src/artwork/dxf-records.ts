import { ArtworkError } from './limits.js';

/** A group of a DXF file: a code and its value, always as text. */
export interface Group {
  readonly code: number;
  readonly value: string;
}

/** An entity, table entry or block: its type, and the groups after it up to the next of code 0. */
export class DxfRecord {
  constructor(
    readonly type: string,
    readonly groups: readonly Group[],
  ) {}

  /** The first value of a code. */
  text(code: number): string | undefined {
    return this.groups.find((group) => group.code === code)?.value;
  }

  /** The first value of a code as a figure; `otherwise` where it is missing or no figure. */
  number(code: number, otherwise = 0): number {
    const value = Number(this.text(code) ?? NaN);
    return Number.isFinite(value) ? value : otherwise;
  }

  has(flag: number, code = 70): boolean {
    return (this.number(code) & flag) !== 0;
  }
}

/** The sections of a DXF file that matter here. */
export interface DxfFile {
  readonly header: ReadonlyMap<string, string>;
  readonly tables: readonly DxfRecord[];
  readonly blocks: readonly DxfRecord[];
  readonly entities: readonly DxfRecord[];
}

/** Most groups of a file. */
const MOST_GROUPS = 4_000_000;

/** Reads the group codes of a DXF file in text form. @throws ArtworkError */
export function readDxfRecords(source: string): DxfFile {
  if (source.startsWith('AutoCAD Binary DXF')) throw new ArtworkError('binary-dxf');
  const lines = source.replace(/^\uFEFF/u, '').split(/\r\n|\r|\n/u);
  if (lines.length / 2 > MOST_GROUPS) throw new ArtworkError('too-many-elements', MOST_GROUPS);
  const header = new Map<string, string>();
  const sections: Record<string, DxfRecord[]> = { TABLES: [], BLOCKS: [], ENTITIES: [] };
  let section = '';
  let variable = '';
  let isNaming = false;
  let groups: Group[] | undefined;
  let hasSection = false;
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = Number(lines[i].trim() || NaN);
    if (!Number.isInteger(code)) throw new ArtworkError('not-dxf', i + 1, lines[i].trim().slice(0, 40));
    const value = lines[i + 1].trim();
    if (code === 0) {
      isNaming = value === 'SECTION';
      groups = undefined;
      if (value === 'EOF') break;
      if (value === 'SECTION') hasSection = true;
      else if (value === 'ENDSEC') section = '';
      else sections[section]?.push(new DxfRecord(value, (groups = [])));
    } else if (isNaming && code === 2) {
      section = value;
      isNaming = false;
    } else if (section === 'HEADER') {
      if (code === 9) variable = value;
      else header.set(variable, value);
    } else groups?.push({ code, value });
  }
  if (!hasSection) throw new ArtworkError('not-dxf', 1, lines[0].slice(0, 40));
  return { header, tables: sections.TABLES, blocks: sections.BLOCKS, entities: sections.ENTITIES };
}
