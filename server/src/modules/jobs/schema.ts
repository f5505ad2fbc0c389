import { type Static, Type } from '@sinclair/typebox';
import { JOB_STATES } from '../../platform/database/models/jobs.js';

const closed = { additionalProperties: false };
const isoDate = { pattern: '^\\d{4}-\\d{2}-\\d{2}$' };

export const Unit = Type.Union([Type.Literal('mm'), Type.Literal('in')]);
const State = Type.Union(JOB_STATES.map((state) => Type.Literal(state)));
const DueOn = Type.Union([Type.String(isoDate), Type.Null()]);
const Title = Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' });
const Quantity = Type.Integer({ minimum: 1, maximum: 100_000 });

export const NewJob = Type.Object(
  {
    customer: Type.String({ minLength: 1, maxLength: 120, pattern: '\\S' }),
    title: Title,
    dueOn: DueOn,
    quantity: Quantity,
    unit: Unit,
  },
  closed,
);
export const JobChange = Type.Partial(
  Type.Object({ title: Title, dueOn: DueOn, quantity: Quantity, unit: Unit, state: State }, closed),
  closed,
);

export type NewJob = Static<typeof NewJob>;
export type JobChange = Static<typeof JobChange>;
