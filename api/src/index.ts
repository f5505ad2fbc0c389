import type { Static, TSchema } from '@sinclair/typebox';
import type { EndpointSchema, Frozen, PartOf, RequestOf } from './endpoint.js';
import { brailleEndpoints } from './braille.js';
import { fileEndpoints } from './files.js';
import { jobEndpoints } from './jobs.js';
import { lotEndpoints } from './lots.js';
import { machineEndpoints } from './machine.js';
import { mailEndpoints } from './mail.js';
import { makingEndpoints } from './making.js';
import { peopleEndpoints } from './people.js';
import { placeEndpoints } from './places.js';
import { runEndpoints } from './runs.js';
import { proofEndpoints } from './proofs.js';
import { shopEndpoints } from './shop.js';
import { signEndpoints } from './signs.js';
import { taskEndpoints } from './tasks.js';

/** Every address that is answered with JSON, by its method and its path below /api. */
export const ENDPOINTS = {
  ...jobEndpoints,
  ...signEndpoints,
  ...taskEndpoints,
  ...proofEndpoints,
  ...peopleEndpoints,
  ...shopEndpoints,
  ...fileEndpoints,
  ...mailEndpoints,
  ...makingEndpoints,
  ...machineEndpoints,
  ...brailleEndpoints,
  ...placeEndpoints,
  ...runEndpoints,
  ...lotEndpoints,
};

export type Endpoints = typeof ENDPOINTS;
export type Endpoint = keyof Endpoints;

/** What a request to an endpoint carries, as the page sends it. */
export type Asked<K extends Endpoint> = RequestOf<Endpoints[K]>;
/** What a part of a request is, as the server reads it; undefined where the endpoint has none. */
export type AskedPart<K extends Endpoint, Part extends 'params' | 'query' | 'body'> = PartOf<Endpoints[K], Part>;
/** Those that take a file. */
export type Upload = { [K in Endpoint]: Endpoints[K] extends { readonly isUpload: true } ? K : never }[Endpoint];
/** What an endpoint answers; nothing where it has no answer. */
export type Answer<K extends Endpoint> = Endpoints[K] extends { readonly answer: infer S extends TSchema } ? Static<S> : void;

export type { EndpointSchema, Frozen };
export { KeptFile } from './files.js';
export { Binned, Job, JobChange, JobEvent, JobRun, JobSign, NewJob, SignProof } from './jobs.js';
export { NewMaking, RunMaking } from './lots.js';
export { MachineReport, MachineRun, MachineView } from './machine.js';
export { Mail } from './mail.js';
export { KeptPlan, type MadeWith, PlanOrder, PlanPrograms, Release, ShopLibrary } from './making.js';
export { AuditEntry, Door, FirstOwner, NewPerson, PasswordChange, Person, PersonChange, SignIn } from './people.js';
export { KeptPlace } from './places.js';
export { KeptRun, ListedRun } from './runs.js';
export {
  Approval,
  CustomerPictureParams,
  CustomerPlaceParams,
  CustomerPlateParams,
  CustomerProof,
  JobTurnaround,
  NewCorrection,
  NewProof,
  NewRemark,
  PictureQuery,
  Proof,
  ProofCorrection,
  ProofPlates,
  ProofRun,
  ProofSign,
  Remark,
  SharedProof,
  RunProof,
  ShopPictureParams,
  ShopPlateParams,
  ShopProof,
  ShopRemark,
  TokenParams,
  Wishes,
} from './proofs.js';
export { closed, IdParams, Words } from './schema.js';
export { SheetLayout, ShopCard } from './sheet.js';
export { AddedFont, KeptLayout, MOST_FONT_BYTES, ShopBlank, ShopKind, ShopFont } from './shop.js';
export { SignJob } from './signs.js';
export * from './states.js';
export { Clearance, NewTask, ProcessChoice, Task } from './tasks.js';
