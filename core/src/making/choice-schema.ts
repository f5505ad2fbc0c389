import { type Static, Type } from '@sinclair/typebox';
import { Ajv, type ValidateFunction } from 'ajv';
import { byKind, closed, schemaFaults } from '../sign/index.js';
import { ShopError } from '../shop/index.js';

const Length = Type.Number({ minimum: 0, maximum: 5000 });
const Place = Type.Number({ minimum: -5000, maximum: 5000 });
const literals = <T extends string>(...values: readonly T[]) => Type.Union(values.map((value) => Type.Literal(value)));

/** How a sign is cut, but for machine, material and tools; every field may be left out. */
export const CutChoiceSchema = Type.Partial(
  closed(
    {
      stockThickness: Type.Number({ exclusiveMinimum: 0, maximum: 500 }),
      zero: closed(
        {
          at: literals('lower left', 'lower right', 'upper left', 'upper right', 'middle'),
          height: literals('face of the stock', 'bed'),
        },
        'where the zero of the programs lies',
      ),
      stepover: Type.Number({ minimum: 0.05, maximum: 0.5, description: 'part of the diameter from path to path' }),
      allowance: Type.Number({ minimum: 0, maximum: 5 }),
      cusp: Type.Number({ minimum: 0.001, maximum: 1 }),
      direction: literals('climb', 'conventional'),
      pattern: byKind(
        closed({ kind: Type.Literal('rings') }, 'rings, from the inside out'),
        closed(
          { kind: Type.Literal('lines'), angle: Type.Number({ minimum: -180, maximum: 180 }) },
          'straight lines at an angle from level, in degrees',
        ),
      ),
      holding: byKind(
        closed(
          {
            kind: Type.Literal('tabs'),
            every: Type.Number({ minimum: 10, maximum: 5000 }),
            width: Length,
            height: Length,
            at: Type.Optional(Type.Array(closed({ x: Place, y: Place }, 'where a tab is'), { maxItems: 400 })),
          },
          'tabs',
        ),
        closed({ kind: Type.Literal('skin'), thickness: Length }, 'a skin'),
        closed({ kind: Type.Literal('nothing') }, 'nothing'),
      ),
      overcut: Type.Number({ minimum: 0, maximum: 5 }),
      cutsOut: Type.Boolean(),
      turning: closed(
        {
          axis: literals('upright', 'level'),
          pins: Type.Optional(
            closed(
              {
                diameter: Type.Number({ minimum: 1, maximum: 50 }),
                apart: Type.Number({ exclusiveMinimum: 0, maximum: 500 }),
                deep: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
              },
              'pins',
            ),
          ),
        },
        'how the stock is turned',
      ),
      clamps: Type.Array(
        closed(
          {
            x: Place,
            y: Place,
            width: Length,
            height: Length,
            above: Length,
          },
          'a clamp',
        ),
        { maxItems: 40 },
      ),
    },
    'how a sign is cut',
  ),
);

type Read = Static<typeof CutChoiceSchema>;

let compiled: ValidateFunction | undefined;

/** @throws ShopError with path, value and remedy of every fault */
export function readCutChoice(source: unknown): Read {
  compiled ??= new Ajv({ discriminator: true, allErrors: true, verbose: true, strict: false }).compile(CutChoiceSchema);
  if (!compiled(source)) throw new ShopError(schemaFaults(compiled.errors ?? [], 'a choice of cuts'));
  return source as Read;
}
