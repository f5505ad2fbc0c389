import { type Sign, SignSchema } from '../document/schema.js';
import { type FieldPath } from './sentence.js';

/** Least and greatest value of a figure. */
export interface Limits {
  readonly min: number;
  readonly max: number;
  /** Only whole figures make sense. */
  readonly isWhole?: boolean;
}

interface Schema {
  readonly type?: string;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly exclusiveMinimum?: number;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly items?: Schema;
  readonly oneOf?: readonly Schema[];
  readonly const?: unknown;
}

/** The least figure above an excluded limit that is offered. */
const JUST_ABOVE = 0.01;

/** mm that a blank may be wide: what goes all the way round is no longer than that. */
const LARGEST_BLANK = 8000;

/** What the schema allows at a place of a sign. */
export function limitsAt(sign: Sign, path: FieldPath): Limits {
  if (path[0] === 'parts' && path[path.length - 1] === 'round') return { min: -720, max: 720 };
  // How far it is round is set by its radius.
  if (path[0] === 'support' && path[1] === 'around') return { min: JUST_ABOVE, max: LARGEST_BLANK };
  if (path[0] === 'support' && path[1] === 'radius' && sign.support?.kind === 'cylinder' && sign.support.round)
    return { min: JUST_ABOVE, max: Number((LARGEST_BLANK / (2 * Math.PI)).toFixed(2)) };
  const { minimum, exclusiveMinimum, maximum, type } = schemaAt(sign, path);
  const min = minimum ?? (exclusiveMinimum === undefined ? -1000 : exclusiveMinimum + JUST_ABOVE);
  return { min, max: maximum ?? 1000, isWhole: type === 'integer' };
}

/** Limits of a measure as a length and in percent. */
export function measureLimitsAt(sign: Sign, path: FieldPath): { readonly length: Limits; readonly percent: Limits } {
  const { oneOf = [] } = schemaAt(sign, path);
  const of = (kind: string, key: string): Limits => {
    const schema = oneOf.find((variant) => variant.properties?.kind.const === kind)?.properties?.[key] ?? {};
    return { min: schema.minimum ?? (schema.exclusiveMinimum ?? 0) + JUST_ABOVE, max: schema.maximum ?? 1000 };
  };
  return { length: of('length', 'length'), percent: of('percent', 'of') };
}

function schemaAt(sign: Sign, path: FieldPath): Schema {
  let schema: Schema = SignSchema as Schema;
  let value: unknown = sign;
  for (const key of path) {
    schema = variantOf(schema, value);
    schema = (typeof key === 'number' ? schema.items : schema.properties?.[key]) ?? {};
    value = (value as Record<string | number, unknown> | undefined)?.[key];
  }
  return schema;
}

/** Of several kinds the one that the value is of. */
function variantOf(schema: Schema, value: unknown): Schema {
  const kind = (value as { kind?: unknown } | undefined)?.kind;
  return schema.oneOf?.find((variant) => variant.properties?.kind.const === kind) ?? schema;
}
