import { LIST_LIMITS } from '@plain-relief/core/runs';
import { type Static, Type } from '@sinclair/typebox';
import type { EndpointTable } from './endpoint.js';
import { closed, Email, IdParams, Moment, oneOf, OptionId, orNull, Unit, Uuid, Words } from './schema.js';
import { SheetLayout } from './sheet.js';
import { CORRECTION_ENDS, PROOF_STATES, SHEET_KINDS } from './states.js';
import { Task } from './tasks.js';

/** Proofs, as the shop and as the customer is told of them. */

/** Of a row of a run. */
const RowId = Type.Integer({ minimum: 1, maximum: 2 ** 31 - 1 });
const Share = Type.Number({ minimum: 0, maximum: 1 });

export const Remark = Type.Object({
  id: Type.String(),
  signId: Type.String(),
  option: orNull(Type.String()),
  /** Of a plate of a run: the run as it was frozen, the id of the plate's row and its number in the list. */
  run: orNull(Type.String()),
  row: orNull(Type.Integer()),
  number: orNull(Type.Integer()),
  /** Shares of the picture's width from the left and of its height from the top. */
  across: orNull(Type.Number()),
  down: orNull(Type.Number()),
  isFromShop: Type.Boolean(),
  who: Type.String(),
  text: Type.String(),
  at: Moment,
});
export type Remark = Static<typeof Remark>;

/** A frozen sign, without its document. */
export const ProofSign = Type.Object({
  id: Type.String(),
  title: Type.String(),
  revision: Type.Integer(),
  unit: Unit,
  options: Type.Array(Type.Object({ id: Type.String(), name: Type.String() })),
  /** Every line of words. */
  spelling: Type.Array(Type.String()),
});
export type ProofSign = Static<typeof ProofSign>;

/** A frozen run, without its rows: a plate for each. */
export const ProofRun = Type.Object({
  id: Type.String(),
  title: Type.String(),
  signId: Type.String(),
  rows: Type.Integer(),
  /** What its plates say, and which columns of its list can be corrected. */
  slots: Type.Array(Type.Object({ slot: Type.String(), column: Type.Optional(Type.String()) })),
});
export type ProofRun = Static<typeof ProofRun>;

/** A value of a frozen run that the customer would have otherwise. */
export const ProofCorrection = Type.Object({
  id: Type.String(),
  run: Type.String(),
  row: Type.Integer(),
  number: Type.Integer(),
  column: Type.String(),
  was: Type.String(),
  value: Type.String(),
  who: Type.String(),
  at: Moment,
  /** What the shop made of it; null as long as nothing. */
  end: orNull(oneOf(CORRECTION_ENDS)),
});
export type ProofCorrection = Static<typeof ProofCorrection>;

const shared = {
  letter: Type.String(),
  state: oneOf(PROOF_STATES),
  digest: Type.String(),
  message: Type.String(),
  createdAt: Moment,
  expiresAt: Moment,
  endedAt: orNull(Moment),
  answeredBy: orNull(Type.String()),
  choices: orNull(Type.Record(Type.String(), Type.String())),
  wishes: orNull(Type.String()),
  signs: Type.Array(ProofSign),
  remarks: Type.Array(Remark),
  runs: Type.Array(ProofRun),
  corrections: Type.Array(ProofCorrection),
};

/** What shop and customer both see. */
export const SharedProof = Type.Object(shared);
export type SharedProof = Static<typeof SharedProof>;

const ofShop = {
  ...shared,
  id: Type.String(),
  jobId: Type.String(),
  recipient: Type.String(),
  seenAt: orNull(Moment),
  remindAt: orNull(Moment),
  ticks: orNull(Type.Record(Type.String(), Type.Boolean())),
  /** What the customer opens; makers are not told. */
  address: Type.Optional(Type.String()),
};

export const ShopProof = Type.Object(ofShop);
export type ShopProof = Static<typeof ShopProof>;

/** A proof with what is kept beside it. */
export const Proof = Type.Object({
  ...ofShop,
  /** What was changed in the signs since, by their ids. */
  changes: Type.Record(Type.String(), Type.Array(Type.String())),
  /** Its sheets are made as files of signs are. */
  sheets: Type.Array(Task),
});
export type Proof = Static<typeof Proof>;

/** A proof as its customer sees it. */
export const CustomerProof = Type.Object({
  ...shared,
  shop: Type.String(),
  customer: Type.String(),
  job: Type.Optional(Type.Object({ number: Type.String(), title: Type.String(), quantity: Type.Integer() })),
  /** Of all but the first proof: what was changed since the one before. */
  changes: Type.Optional(Type.Object({ since: Type.String(), changes: Type.Array(Type.String()) })),
  isSheetReady: Type.Boolean(),
  /** Signs as they will hang: over a photograph, or as a picture of its own. */
  places: Type.Array(
    Type.Object({
      id: Type.String(),
      title: Type.String(),
      hasPhotograph: Type.Boolean(),
      /** Pixels, by which its shape is known before it has come. */
      width: Type.Integer(),
      height: Type.Integer(),
    }),
  ),
  /** Of a replaced proof what came in its place. */
  newer: Type.Optional(Type.Object({ letter: Type.String(), token: Type.String() })),
});
export type CustomerProof = Static<typeof CustomerProof>;

export const NewProof = Type.Object(
  {
    /** The signs to freeze, in the order in which they are shown. */
    signs: Type.Array(Uuid, { minItems: 1, maxItems: 50 }),
    recipient: Email,
    message: Type.String({ maxLength: 4000 }),
    /** Places of the job that are shown with them; all of them where nothing is said. */
    places: Type.Optional(Type.Array(Uuid, { maxItems: 20 })),
    /** Runs of those signs, whose plates are approved with them; all of them where nothing is said. */
    runs: Type.Optional(Type.Array(Uuid, { maxItems: 20 })),
    /** What the sheet shows; everything where nothing is said. */
    layout: Type.Optional(SheetLayout),
    /** Days until the customer's address stops working. */
    days: Type.Integer({ minimum: 1, maximum: 365 }),
    /** Days after which the customer is reminded; never where there are none. */
    remindAfter: Type.Optional(Type.Integer({ minimum: 1, maximum: 60 })),
    /** Notes left open that somebody has seen, and sends the proof all the same. */
    confirmed: Type.Optional(
      Type.Array(Type.Object({ signId: Uuid, notes: Type.Array(Type.String({ maxLength: 2000 }), { maxItems: 500 }) }, closed), {
        maxItems: 50,
      }),
    ),
  },
  closed,
);
export type NewProof = Static<typeof NewProof>;

const remark = {
  signId: Uuid,
  option: Type.Optional(OptionId),
  text: Words(2000),
  across: Type.Optional(Share),
  down: Type.Optional(Share),
  /** Of a plate: the frozen run and the id of its row. */
  run: Type.Optional(Uuid),
  row: Type.Optional(RowId),
};
/** A remark that is not said yet. */
export const ShopRemark = Type.Object(remark, closed);
export type ShopRemark = Static<typeof ShopRemark>;
export const NewRemark = Type.Object({ ...remark, who: Words(120) }, closed);
export type NewRemark = Static<typeof NewRemark>;

export const Approval = Type.Object(
  {
    name: Words(120),
    ticks: Type.Object({ spelling: Type.Literal(true), sizes: Type.Literal(true), colours: Type.Literal(true) }, closed),
    choices: Type.Record(Uuid, OptionId),
    /** Of the contents that were seen. */
    digest: Type.String({ pattern: '^[0-9a-f]{64}$' }),
  },
  closed,
);
export type Approval = Static<typeof Approval>;
export const Wishes = Type.Object({ name: Words(120), wishes: Words(4000) }, closed);
export type Wishes = Static<typeof Wishes>;

/** A value of a plate that is to be otherwise; the one that it had takes the correction back. */
export const NewCorrection = Type.Object(
  {
    run: Uuid,
    row: RowId,
    column: Type.String({ minLength: 1, maxLength: 90 }),
    value: Type.String({ maxLength: LIST_LIMITS.characters }),
    who: Words(120),
  },
  closed,
);
export type NewCorrection = Static<typeof NewCorrection>;

/** Plates of a frozen run, as they are read. */
export const ProofPlates = Type.Object({
  /** How many there are of what is asked for. */
  of: Type.Integer(),
  plates: Type.Array(
    Type.Object({ row: Type.Integer(), number: Type.Integer(), title: Type.String(), values: Type.Array(Type.String()) }),
  ),
});
export type ProofPlates = Static<typeof ProofPlates>;

/** The newest proof that a run was frozen in, and what became of it. */
export const RunProof = Type.Object({
  proofId: Type.String(),
  letter: Type.String(),
  state: oneOf(PROOF_STATES),
  createdAt: Moment,
  endedAt: orNull(Moment),
  answeredBy: orNull(Type.String()),
  /** What is otherwise since: whether the sign is, numbers of plates in the list as it is now, and how many are gone. */
  changes: Type.Object({
    isSignChanged: Type.Boolean(),
    changed: Type.Array(Type.Integer()),
    added: Type.Array(Type.Integer()),
    removed: Type.Integer(),
  }),
  /** The option of the sign that the customer chose, and whether plates are made as that one now; none where its list chooses, or there are no options. */
  option: orNull(Type.Object({ id: Type.String(), name: Type.String(), isMade: Type.Boolean() })),
  corrections: Type.Array(ProofCorrection),
  remarks: Type.Array(Remark),
});
export type RunProof = Static<typeof RunProof>;

/** How the proofs of one job went. */
export const JobTurnaround = Type.Object({
  number: Type.String(),
  title: Type.String(),
  customer: Type.String(),
  /** Proofs that were sent. */
  rounds: Type.Integer(),
  firstSentAt: Moment,
  /** When the first of them was approved. */
  approvedAt: orNull(Moment),
  /** Days from sending to the answer of every proof that was answered, oldest first. */
  daysToAnswer: Type.Array(Type.Number()),
});
export type JobTurnaround = Static<typeof JobTurnaround>;

const Token = Type.String({ pattern: '^[A-Za-z0-9_-]{43}$' });
export const TokenParams = Type.Object({ token: Token }, closed);
export type TokenParams = Static<typeof TokenParams>;
export const CustomerPictureParams = Type.Object({ token: Token, signId: Uuid }, closed);
export const CustomerPlaceParams = Type.Object({ token: Token, placeId: Uuid }, closed);
/** The id of a row, as an address has it. */
const RowInAddress = Type.String({ pattern: '^[1-9][0-9]{0,9}$' });
export const CustomerRunParams = Type.Object({ token: Token, runId: Uuid }, closed);
export const CustomerPlateParams = Type.Object({ token: Token, runId: Uuid, row: RowInAddress }, closed);
export const ShopPlateParams = Type.Object({ id: Type.String({ maxLength: 64 }), runId: Uuid, row: RowInAddress }, closed);
/** Which plates of a frozen run are asked for. */
const PlatesQuery = Type.Object(
  {
    from: Type.Optional(Type.String({ pattern: '^[0-9]{1,6}$' })),
    /** Only those that have these words, or this number. */
    words: Type.Optional(Type.String({ maxLength: 200 })),
    /** Only those of which something was said. */
    only: Type.Optional(Type.Literal('said')),
  },
  closed,
);

export const ShopPictureParams = Type.Object({ id: Type.String({ maxLength: 64 }), signId: Uuid }, closed);
export const PictureQuery = Type.Object({ option: Type.Optional(OptionId) }, closed);

export const proofEndpoints = {
  'GET /jobs/:id/proofs': {
    params: IdParams,
    answer: Type.Object({
      /** The letter that the next one will have. */
      nextLetter: Type.String(),
      proofs: Type.Array(Proof),
    }),
  },
  'POST /jobs/:id/proofs': { params: IdParams, body: NewProof, status: 201, answer: ShopProof },
  'GET /proofs/:id': { params: IdParams, answer: ShopProof },
  'POST /proofs/:id/withdraw': { params: IdParams, answer: ShopProof },
  'POST /proofs/:id/remarks': { params: IdParams, body: ShopRemark, status: 201, answer: ShopProof },
  'GET /proofs/:id/runs/:runId': {
    params: Type.Object({ id: Type.String({ maxLength: 64 }), runId: Uuid }, closed),
    query: PlatesQuery,
    answer: ProofPlates,
  },
  'POST /proofs/:id/sheets': {
    params: IdParams,
    body: Type.Object({ kind: oneOf(SHEET_KINDS) }, closed),
    status: 202,
    answer: Task,
  },
  'GET /turnaround': { answer: Type.Object({ jobs: Type.Array(JobTurnaround) }) },
  'GET /proof-links/:token': {
    params: TokenParams,
    /** Who looks: the shop itself is not taken for the customer. */
    query: Type.Object({ by: Type.Optional(Type.Literal('shop')) }, closed),
    answer: CustomerProof,
  },
  'GET /proof-links/:token/runs/:runId': {
    params: CustomerRunParams,
    query: PlatesQuery,
    answer: ProofPlates,
  },
  'POST /proof-links/:token/corrections': { params: TokenParams, body: NewCorrection, status: 201, answer: CustomerProof },
  'GET /runs/:id/proof': { params: IdParams, answer: Type.Object({ proof: orNull(RunProof) }) },
  'POST /runs/:id/files': {
    params: IdParams,
    body: Type.Object(
      {
        /** Numbers of the plates in the list as it is kept, from 1. */
        plates: Type.Array(Type.Integer({ minimum: 1, maximum: LIST_LIMITS.rows }), { minItems: 1, maxItems: LIST_LIMITS.rows }),
        /** What is made of them, in words. */
        what: Words(200),
        /** Why, where they were not approved as they are. */
        override: Type.Optional(Words(1000)),
      },
      closed,
    ),
    /** The proof that they were approved in, where they were. */
    answer: Type.Object({ letter: orNull(Type.String()) }),
  },
  'POST /corrections/:id': {
    params: IdParams,
    /** What the shop made of it; null opens it again. */
    body: Type.Object({ end: orNull(oneOf(CORRECTION_ENDS)) }, closed),
    answer: ProofCorrection,
  },
  'POST /proof-links/:token/remarks': { params: TokenParams, body: NewRemark, status: 201, answer: CustomerProof },
  'POST /proof-links/:token/approval': { params: TokenParams, body: Approval, answer: CustomerProof },
  'POST /proof-links/:token/wishes': { params: TokenParams, body: Wishes, answer: CustomerProof },
} as const satisfies EndpointTable;
