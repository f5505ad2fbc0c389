import { type Static, Type } from '@sinclair/typebox';
import { byKind, closed, Coordinate, Id } from './schema-basics.js';

/** Places for words of a list, and what its columns choose. */

type LengthOf = 'width' | 'height' | 'diameter' | 'thickness' | 'amount' | 'x' | 'y';

const SlotName = Type.String({ pattern: '^(?=.*[^ ])[^{}\\n]{1,40}$' });
const Counter = closed(
  {
    from: Type.Integer({ minimum: 0, maximum: 999_999_999 }),
    step: Type.Integer({ minimum: -100_000, maximum: 100_000 }),
    digits: Type.Integer({ minimum: 1, maximum: 12 }),
    form: Type.Union([Type.Literal('figures'), Type.Literal('letters')]),
    prefix: Type.Optional(Type.String({ maxLength: 20 })),
    per: Type.Optional(SlotName),
  },
  'numbers that count on from plate to plate; `per`: begun anew for every value of that slot, or column',
);
const SlotSetting = byKind(
  closed({ kind: Type.Literal('option') }, 'the option of the sign that has this name'),
  closed(
    {
      kind: Type.Literal('finish'),
      part: Id,
      tier: Id,
      of: Type.Union([Type.Literal('top'), Type.Literal('sides'), Type.Literal('both')]),
    },
    'a finish of a tier, by its name: one of the sign, one at hand, or a colour of CSS',
  ),
  closed(
    { kind: Type.Literal('shown'), part: Id, tier: Type.Optional(Id) },
    'whether a part, or a tier of it, is made: yes or no',
  ),
  closed(
    { kind: Type.Literal('one of'), parts: Type.Array(Id, { minItems: 1, maxItems: 100 }) },
    'which of these parts, such as logos, is made, by its name',
  ),
  closed(
    {
      kind: Type.Literal('length'),
      part: Type.Optional(Id),
      tier: Type.Optional(Id),
      of: Type.Union(['width', 'height', 'diameter', 'thickness', 'amount', 'x', 'y'].map((of) => Type.Literal(of as LengthOf))),
      least: Coordinate,
      most: Coordinate,
    },
    'a length of the blank, of a part, where a part is (`x`, `y`), or how far a tier is raised or sunk (`amount`), within limits',
  ),
);
/** What a column, or one row alone, chooses: a value by its place in the sign. */
export const SlotSettingSchema = SlotSetting;
export const Slot = closed(
  {
    name: SlotName,
    empty: Type.Union([Type.Literal('close'), Type.Literal('keep'), Type.Literal('refuse')]),
    default: Type.Optional(Type.String({ maxLength: 200 })),
    case: Type.Optional(Type.Union([Type.Literal('upper'), Type.Literal('lower'), Type.Literal('title')])),
    counter: Type.Optional(Counter),
    once: Type.Optional(Type.Boolean()),
    sets: Type.Optional(SlotSetting),
  },
  'a place for words of a list: `{name}` in any words, `{{` for a brace. What is done where a row has no value: close up, keep the gap, or refuse the row; `once`: no two rows may have the same',
);

export type Slot = Static<typeof Slot>;
/** What a column chooses instead of words. */
export type SlotSetting = Static<typeof SlotSetting>;
export type Counter = Static<typeof Counter>;
