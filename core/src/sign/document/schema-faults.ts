import type { ErrorObject } from 'ajv';
import { type SignFault } from './faults.js';

/**
 * What a schema found wrong, each once, with path, value and remedy.
 * @param thing that was judged: "a sign"
 */
export const schemaFaults = (errors: readonly ErrorObject[], thing: string): SignFault[] =>
  distinct(errors.map((error) => describe(error, thing)));

/** "/parts/0/place/x" as "parts[0].place.x". */
function pathOf(pointer: string, property?: string): string {
  const keys = pointer
    .split('/')
    .slice(1)
    .map((key) => key.replace(/~1/gu, '/').replace(/~0/gu, '~'));
  if (property !== undefined) keys.push(property);
  return keys.reduce((path, key) => (/^\d+$/u.test(key) ? `${path}[${key}]` : path ? `${path}.${key}` : key), '');
}

/** A value as a few characters, to stand in a sentence. */
export function described(value: unknown): string {
  if (value === undefined) return 'nothing';
  // Never written out whole: it may be all of a large sign.
  if (Array.isArray(value)) return value.length === 0 ? 'an empty list' : `a list of ${value.length}`;
  if (typeof value === 'object' && value !== null) return 'an object';
  const text = JSON.stringify(typeof value === 'string' ? value.slice(0, 80) : value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

function describe(error: ErrorObject, thing: string): SignFault {
  const { keyword, params, data } = error;
  const path = pathOf(error.instancePath);
  const value = described(data);
  switch (keyword) {
    case 'additionalProperties':
      return {
        path: pathOf(error.instancePath, params.additionalProperty),
        message: `is not a field that ${thing} has: take it out, or correct its spelling.`,
      };
    case 'required':
      return { path: pathOf(error.instancePath, params.missingProperty), message: 'is missing.' };
    case 'type':
      return { path, message: `is ${value} and must be of type ${params.type}.` };
    case 'const':
      return { path, message: `is ${value} and must be ${described(params.allowedValue)}.` };
    case 'discriminator': {
      const kinds = ((error.parentSchema?.oneOf ?? []) as { properties: { kind: { const: string } } }[])
        .map((variant) => described(variant.properties.kind.const))
        .join(', ');
      return {
        path: pathOf(error.instancePath, 'kind'),
        message: `is ${described(params.tagValue)} and must be one of ${kinds}.`,
      };
    }
    case 'anyOf': {
      const choices = ((error.schema ?? []) as { const?: unknown }[]).map((choice) => described(choice.const)).join(', ');
      return { path, message: `is ${value} and must be one of ${choices}.` };
    }
    case 'minimum':
    case 'maximum':
    case 'exclusiveMinimum':
    case 'exclusiveMaximum':
      return { path, message: `is ${value} and must be ${params.comparison} ${params.limit}.` };
    case 'maxLength':
    case 'minLength':
      return {
        path,
        message: `has ${(data as string).length} characters and must have ${keyword === 'maxLength' ? 'at most' : 'at least'} ${params.limit}.`,
      };
    case 'maxItems':
      return { path, message: `has ${(data as unknown[]).length} entries and may have ${params.limit}.` };
    case 'pattern':
      if (String(params.pattern).includes('#')) return { path, message: `is ${value} and must be a colour such as "#3f7d6e".` };
      return { path, message: `is ${value} and may have letters, digits, hyphens and underscores, up to 64 of them.` };
    default:
      return { path, message: `${error.message ?? keyword} (it is ${value}).` };
  }
}

function distinct(faults: readonly SignFault[]): SignFault[] {
  const seen = new Set<string>();
  // A value that is none of several constants is reported for each of them and once for all: the last says it best.
  const summed = new Set(faults.filter((fault) => fault.message.includes('one of')).map((fault) => fault.path));
  return faults.filter(({ path, message }) => {
    if (summed.has(path) && !message.includes('one of')) return false;
    const key = `${path} ${message}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}
