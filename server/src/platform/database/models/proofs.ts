import type { ShopCard } from '@plain-relief/api';
import type { ProofState, Ticks } from '@plain-relief/api/states';
import { type Sign, upgraded } from '@plain-relief/core/sign';
import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import { type Weighed } from '@plain-relief/core/shop';
import { type SheetLayout } from '@plain-relief/core/sheet';
import type { Job } from './jobs.js';
import type { CorrectionRow, FrozenRun } from './runs.js';

/** A sign as it was when the proof was frozen. */
export interface ProofSign {
  readonly signId: string;
  readonly title: string;
  readonly revision: number;
  readonly document: Sign;
}

/** What was ordered, as it stood when the proof was frozen. */
export interface Brief {
  readonly contact: string;
  readonly quantity: number;
  /** As 2026-11-25. */
  readonly dueOn: string | null;
}

export interface Revision {
  readonly letter: string;
  /** As 2026-11-25. */
  readonly date: string;
  readonly state: string;
  /** What is otherwise than in the one before. */
  readonly changes: readonly string[];
}

/** What the sheets of a proof say besides its signs, as it was when it was frozen. */
export interface ProofAbout {
  readonly shop: ShopCard;
  readonly layout: SheetLayout;
  readonly brief: Brief;
  readonly revisions: readonly Revision[];
  /** Of the shop; none in proofs that are older than that. */
  readonly materials?: readonly Weighed[];
}

/** A frozen revision of a job's signs, sent to the customer. Its contents never change: the database itself refuses it. */
export class Proof extends Model<InferAttributes<Proof>, InferCreationAttributes<Proof>> {
  declare id: string;
  declare jobId: string;
  /** A, B, C … within the job. */
  declare letter: string;
  declare state: ProofState;
  declare contents: readonly ProofSign[];
  /** Which signs it holds at which revision: as the contents, without the documents. */
  declare covers: readonly { readonly signId: string; readonly revision: number }[] | null;
  /** SHA-256 of the contents. */
  declare digest: string;
  /** What its sheets say besides the signs; null of proofs that are older than that. */
  declare about: ProofAbout | null;
  /** What the shop says to the customer. */
  declare message: string;
  /** Whom it was sent to. */
  declare recipient: string;
  /** The unguessable part of the customer's address. */
  declare token: string;
  declare createdAt: Date;
  declare expiresAt: Date;
  declare seenAt: Date | null;
  declare endedAt: Date | null;
  /** The name that was typed with the answer. */
  declare answeredBy: string | null;
  declare ticks: Ticks | null;
  /** By sign the option that was chosen, where it has options. */
  declare choices: Readonly<Record<string, string>> | null;
  /** The changes that are asked for. */
  declare wishes: string | null;
  declare remindAt: Date | null;
  declare job?: NonAttribute<Job>;
  declare remarks?: NonAttribute<ProofRemark[]>;
  /** Without their documents. */
  declare runs?: NonAttribute<FrozenRun[]>;
  declare corrections?: NonAttribute<CorrectionRow[]>;
}

/** Something said about a place of a frozen sign, by the customer or by the shop. */
export class ProofRemark extends Model<InferAttributes<ProofRemark>, InferCreationAttributes<ProofRemark>> {
  declare id: string;
  declare proofId: string;
  declare signId: string;
  declare option: string | null;
  /** Of a plate: the frozen run, the id of its row, and its number in the list. */
  declare run: string | null;
  declare row: number | null;
  declare number: number | null;
  /** Where on the picture from the front: shares of its width from the left and of its height from the top. */
  declare across: number | null;
  declare down: number | null;
  declare isFromShop: boolean;
  declare who: string;
  declare text: string;
  declare at: Date;
}

export function defineProofs(sequelize: Sequelize) {
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  Proof.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      jobId: DataTypes.UUID,
      letter: text(4),
      state: text(20),
      contents: {
        type: DataTypes.JSONB,
        allowNull: false,
        get(this: Model): unknown {
          // An update of other fields has none.
          const kept = this.getDataValue('contents' as never) as unknown as readonly ProofSign[] | undefined;
          return kept?.map((sign) => ({ ...sign, document: upgraded(sign.document) }));
        },
      },
      covers: DataTypes.JSONB,
      digest: text(64),
      about: DataTypes.JSONB,
      message: { type: DataTypes.TEXT, allowNull: false },
      recipient: text(200),
      token: text(64),
      createdAt: DataTypes.DATE,
      expiresAt: DataTypes.DATE,
      seenAt: DataTypes.DATE,
      endedAt: DataTypes.DATE,
      answeredBy: DataTypes.STRING(120),
      ticks: DataTypes.JSONB,
      choices: DataTypes.JSONB,
      wishes: DataTypes.TEXT,
      remindAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'proofs' },
  );
  ProofRemark.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      proofId: DataTypes.UUID,
      signId: DataTypes.UUID,
      option: DataTypes.STRING(64),
      run: DataTypes.UUID,
      row: DataTypes.INTEGER,
      number: DataTypes.INTEGER,
      across: DataTypes.FLOAT,
      down: DataTypes.FLOAT,
      isFromShop: DataTypes.BOOLEAN,
      who: text(120),
      text: { type: DataTypes.TEXT, allowNull: false },
      at: DataTypes.DATE,
    },
    { sequelize, tableName: 'proof_remarks' },
  );
  return { Proof, ProofRemark };
}
