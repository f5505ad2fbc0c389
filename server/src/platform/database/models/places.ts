import { type Place } from '@plain-relief/core/in-place';
import { type Sign, upgraded } from '@plain-relief/core/sign';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** Signs of a job as they will hang. */
export class PlaceRow extends Model<InferAttributes<PlaceRow>, InferCreationAttributes<PlaceRow>> {
  declare id: string;
  declare jobId: string;
  declare title: string;
  declare revision: number;
  declare document: Place;
  declare savedAt: Date;
  declare createdAt: Date;
}

/** A place as it was when a proof was frozen, with its signs and its photograph, so that nothing else is needed to draw it. */
export class ProofPlace extends Model<InferAttributes<ProofPlace>, InferCreationAttributes<ProofPlace>> {
  declare id: string;
  declare proofId: string;
  declare position: number;
  declare title: string;
  declare document: Place;
  /** In the order of the place; null of one that was gone. */
  declare signs: readonly (Sign | null)[];
  declare photograph: Buffer | null;
}

export function definePlaces(sequelize: Sequelize) {
  const id = { type: DataTypes.UUID, primaryKey: true };
  const document = { type: DataTypes.JSONB, allowNull: false };
  PlaceRow.init(
    {
      id,
      jobId: DataTypes.UUID,
      title: DataTypes.STRING(120),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      document,
      savedAt: DataTypes.DATE,
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'places' },
  );
  ProofPlace.init(
    {
      id,
      proofId: DataTypes.UUID,
      position: DataTypes.INTEGER,
      title: DataTypes.STRING(120),
      document,
      signs: {
        type: DataTypes.JSONB,
        allowNull: false,
        get(this: Model): unknown {
          const kept = this.getDataValue('signs' as never) as unknown as readonly (Sign | null)[] | undefined;
          return kept?.map((sign) => sign && upgraded(sign));
        },
      },
      photograph: DataTypes.BLOB,
    },
    { sequelize, tableName: 'proof_places' },
  );
  return { PlaceRow, ProofPlace };
}
