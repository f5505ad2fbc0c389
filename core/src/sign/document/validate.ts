import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import { BRAILLE_TABLES, brailleTable } from '../../braille/index.js';
import { readPathData } from '../../geometry/index.js';
import { type FontEntry } from '../../type/index.js';
import { sideOf } from './levels.js';
import { SignError, type SignFault } from './faults.js';
import { implausible } from './plausible.js';
import { described, schemaFaults } from './schema-faults.js';
import { outlinesUsed, settingFault } from './references.js';
import { type BrailleShape, type Sign, SignSchema } from './schema.js';
import { upgraded } from './upgrades.js';
import { SIGN_VERSION } from './version.js';

const MOST_FAULTS = 20;
/** Several errors of the check may come of one fault. */
const MOST_ERRORS = 200;

let compiled: ValidateFunction | undefined;

/** Makes the check of the schema, which takes some tenths of a second: a server does it before it answers anybody. */
export function prepareReading(): ValidateFunction {
  // Unoptimised code is made in half the time and checks as fast.
  return (compiled ??= new Ajv({
    discriminator: true,
    allErrors: true,
    verbose: true,
    strict: false,
    code: { optimize: false },
  }).compile(SignSchema));
}

function check(document: unknown): ErrorObject[] {
  const isSign = prepareReading();
  return isSign(document) ? [] : (isSign.errors ?? []).slice(0, MOST_ERRORS);
}

/**
 * A document read as a sign: older versions brought up to date, every field checked against the schema, ids unique,
 * references resolved and, where a catalogue is given, fonts known. The document is not changed.
 * @throws SignError with path, value and remedy of every fault
 */
export function readSign(document: unknown, catalogue?: readonly FontEntry[]): Sign {
  const rough = implausible(document);
  if (rough.length > 0) throw new SignError(rough);
  const read = current(document);
  const faults = schemaFaults(check(read), 'a sign');
  if (faults.length > 0) throw new SignError(faults.slice(0, MOST_FAULTS));
  const sign = read as Sign;
  const more = referenceFaults(sign, catalogue);
  if (more.length > 0) throw new SignError(more.slice(0, MOST_FAULTS));
  return sign;
}

/** The document brought up to this version. @throws SignError where it is no object or of no version that is known */
function current(document: unknown): unknown {
  if (typeof document !== 'object' || document === null || Array.isArray(document))
    throw new SignError([{ path: '', message: `A sign is a JSON object, and this is ${described(document)}.` }]);
  if (!('version' in document))
    throw new SignError([{ path: 'version', message: `is missing: write "version": ${SIGN_VERSION}.` }]);
  const now = upgraded(document);
  if (now.version === SIGN_VERSION) return now;
  throw new SignError([
    {
      path: 'version',
      message: `${described(now.version)} is not a version that this release reads: it reads up to ${SIGN_VERSION}.`,
    },
  ]);
}

function referenceFaults(sign: Sign, catalogue: readonly FontEntry[] | undefined): SignFault[] {
  const faults: SignFault[] = [];
  const seen = new Set<string>();
  const finishes = new Set(sign.finishes?.map(({ id }) => id));
  const wear = (finish: Readonly<Record<string, string | undefined>> | undefined, at: string) => {
    for (const [place, id] of Object.entries(finish ?? {}))
      if (id !== undefined && !finishes.has(id))
        faults.push({
          path: `${at}.finish.${place}`,
          message: `“${id}” is not the id of a finish of this sign: add it to its finishes.`,
        });
  };
  wear(sign.blank.finish, 'blank');
  if (sign.blank.outline.kind === 'outline') faults.push(...pathFaults(sign.blank.outline.path, 'blank.outline.path'));
  faults.push(...laterFaults(sign, wear));
  sign.parts.forEach((part, index) => {
    const path = `parts[${index}]`;
    if (seen.has(part.id))
      faults.push({ path: `${path}.id`, message: `“${part.id}” is the id of an earlier part: give each part its own.` });
    if (part.sitsOn.kind === 'part' && !seen.has(part.sitsOn.part))
      faults.push({
        path: `${path}.sitsOn.part`,
        message: `“${part.sitsOn.part}” is not the id of an earlier part: a part sits on the face or on one built before it.`,
      });
    const host = part.sitsOn.kind === 'part' ? part.sitsOn.part : undefined;
    if (sign.parts.some((other) => other.id === host && sideOf(other) !== sideOf(part)))
      faults.push({
        path: `${path}.sitsOn.part`,
        message: `“${host}” is on the other side of the blank: a part sits on the face of its side or on a part of the same side.`,
      });
    if (part.kind === 'shape' && part.shape.kind === 'outline') faults.push(...pathFaults(part.shape.path, `${path}.shape.path`));
    if (part.kind === 'shape' && part.shape.kind === 'braille') faults.push(...brailleFaults(sign, part.shape, `${path}.shape`));
    for (const { at, id } of outlinesUsed(part)) {
      if (!seen.has(id))
        faults.push({
          path: `${path}.${at}`,
          message: `“${id}” is not the id of an earlier part: what follows another part is built after it.`,
        });
    }
    seen.add(part.id);
    const tiers = new Set<string>();
    part.tiers.forEach((tier, at) => {
      wear(tier.finish, `${path}.tiers[${at}]`);
      if (tiers.has(tier.id))
        faults.push({ path: `${path}.tiers[${at}].id`, message: `“${tier.id}” is the id of an earlier tier of this part.` });
      tiers.add(tier.id);
    });
    if (catalogue && part.kind === 'text' && !catalogue.some((entry) => entry.id === part.font))
      faults.push({
        path: `${path}.font`,
        message: `“${part.font}” is not a font at hand: choose one of ${catalogue
          .slice(0, 4)
          .map((entry) => entry.id)
          .join(', ')} …`,
      });
  });
  return faults;
}

function brailleFaults({ parts }: Sign, { follows, table }: BrailleShape, path: string): SignFault[] {
  const faults: SignFault[] = [];
  if (follows !== undefined && !parts.some(({ id }) => id === follows))
    faults.push({ path: `${path}.follows`, message: `“${follows}” is not the id of a part: name a text, or leave it out.` });
  if (!brailleTable(table))
    faults.push({
      path: `${path}.table`,
      message: `“${table}” is not a table that is known: choose one of ${BRAILLE_TABLES.map(({ id }) => id).join(', ')}.`,
    });
  return faults;
}

function pathFaults(data: string, path: string): SignFault[] {
  try {
    readPathData(data);
    return [];
  } catch (error) {
    return [{ path, message: (error as Error).message }];
  }
}

type Wear = (finish: Readonly<Record<string, string | undefined>> | undefined, at: string) => void;

/** What is wrong with letters that the blank is cut to, options, and named sections. */
function laterFaults(sign: Sign, wear: Wear): SignFault[] {
  const faults: SignFault[] = [];
  const parts = new Map(sign.parts.map((part) => [part.id, part]));
  sign.blank.cutTo?.parts.forEach((id, i) => {
    if (!parts.has(id))
      faults.push({
        path: `blank.cutTo.parts[${i}]`,
        message: `“${id}” is not the id of a part: name the parts that are cut out.`,
      });
  });
  sign.options?.forEach((option, at) => {
    wear(option.finish, `options[${at}]`);
    option.tiers.forEach(({ part, tier, finish }, i) => {
      const path = `options[${at}].tiers[${i}]`;
      wear(finish, path);
      if (!parts.get(part)?.tiers.some(({ id }) => id === tier))
        faults.push({ path: `${path}.tier`, message: `“${tier}” is not the id of a tier of “${part}”: take the change out.` });
    });
  });
  const alike = (name: string, list: readonly { readonly id: string }[] = []): void =>
    list.forEach(({ id }, at) => {
      if (list.findIndex((other) => other.id === id) < at)
        faults.push({ path: `${name}[${at}].id`, message: `“${id}” is the id of an earlier one: give each its own.` });
    });
  sign.slots?.forEach(({ name, sets }, at) => {
    const stray = sets && settingFault(sign, sets);
    if (stray)
      faults.push({
        path: `slots[${at}].sets.${stray.at}`,
        message: `“${stray.id}” is the id of nothing that the sign has: take it out.`,
      });
    if (sign.slots!.findIndex((other) => other.name === name) < at)
      faults.push({ path: `slots[${at}].name`, message: `“${name}” is the name of an earlier slot: give each its own.` });
  });
  alike('options', sign.options);
  alike('sections', sign.sections);
  return faults;
}
