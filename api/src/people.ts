import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, Email, IdParams, Moment, oneOf, Words } from './schema.js';
import { ROLES } from './states.js';

const Role = oneOf(ROLES);
/** Long rather than odd. */
const NewPassword = Type.String({ minLength: 10, maxLength: 200 });
const Password = Type.String({ maxLength: 200 });

/** Somebody of the shop. */
export const Person = Type.Object({
  id: Type.String(),
  name: Type.String(),
  email: Type.String(),
  role: Role,
  hasLeft: Type.Boolean(),
});
export type Person = Static<typeof Person>;

/** What somebody who is not signed in is told. */
export const Door = Type.Object({
  /** There is nobody yet: the first to come becomes the owner. */
  isNew: Type.Boolean(),
  demo: Type.Optional(
    Type.Object({
      password: Type.String(),
      people: Type.Array(Type.Object({ name: Type.String(), email: Type.String(), role: Role })),
    }),
  ),
});
export type Door = Static<typeof Door>;

export const SignIn = Type.Object({ email: Type.String({ maxLength: 200 }), password: Password }, closed);
export type SignIn = Static<typeof SignIn>;
export const FirstOwner = Type.Object({ name: Words(120), email: Email, password: NewPassword }, closed);
export type FirstOwner = Static<typeof FirstOwner>;
export const NewPerson = Type.Object({ name: Words(120), email: Email, role: Role, password: NewPassword }, closed);
export type NewPerson = Static<typeof NewPerson>;
export const PersonChange = Type.Partial(
  Type.Object({ name: Words(120), role: Role, password: NewPassword, hasLeft: Type.Boolean() }, closed),
  closed,
);
export type PersonChange = Static<typeof PersonChange>;
export const PasswordChange = Type.Object({ before: Password, password: NewPassword }, closed);
export type PasswordChange = Static<typeof PasswordChange>;

/** A line of the audit trail. */
export const AuditEntry = Type.Object({ at: Moment, who: Type.String(), action: Type.String(), subject: Type.String() });
export type AuditEntry = Static<typeof AuditEntry>;

const Admitted = Type.Object({ person: Person });

export const peopleEndpoints = {
  'GET /session': { answer: Type.Union([Admitted, Door]) },
  'POST /session': { body: SignIn, answer: Admitted },
  'POST /session/first': { body: FirstOwner, status: 201, answer: Admitted },
  'DELETE /session': {},
  'DELETE /sessions': {},
  'PUT /session/password': { body: PasswordChange, answer: Admitted },
  'GET /people': { answer: Type.Object({ people: Type.Array(Person) }) },
  'POST /people': { body: NewPerson, status: 201, answer: Person },
  'PATCH /people/:id': { params: IdParams, body: PersonChange, answer: Person },
  'GET /audit': { answer: Type.Object({ entries: Type.Array(AuditEntry) }) },
} as const satisfies EndpointTable;
