import { type Static, Type } from '@sinclair/typebox';
import { ROLES } from '../../platform/database/models/people.js';

const closed = { additionalProperties: false };
const Name = Type.String({ minLength: 1, maxLength: 120, pattern: '\\S' });
const Email = Type.String({ maxLength: 200, pattern: '^[^\\s@<>,;]+@[^\\s@<>,;]+$' });
const Role = Type.Union(ROLES.map((role) => Type.Literal(role)));
/** Long rather than odd. */
const NewPassword = Type.String({ minLength: 10, maxLength: 200 });

export const SignIn = Type.Object({ email: Type.String({ maxLength: 200 }), password: Type.String({ maxLength: 200 }) }, closed);
export const FirstOwner = Type.Object({ name: Name, email: Email, password: NewPassword }, closed);
export const NewPerson = Type.Object({ name: Name, email: Email, role: Role, password: NewPassword }, closed);
export const PersonChange = Type.Partial(
  Type.Object({ name: Name, role: Role, password: NewPassword, hasLeft: Type.Boolean() }, closed),
  closed,
);
export const PasswordChange = Type.Object({ before: Type.String({ maxLength: 200 }), password: NewPassword }, closed);

export type SignIn = Static<typeof SignIn>;
export type FirstOwner = Static<typeof FirstOwner>;
export type NewPerson = Static<typeof NewPerson>;
export type PersonChange = Static<typeof PersonChange>;
export type PasswordChange = Static<typeof PasswordChange>;
