import type { Role } from '@plain-relief/api/states';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** Somebody of the shop. */
export class Person extends Model<InferAttributes<Person>, InferCreationAttributes<Person>> {
  declare id: string;
  declare name: string;
  /** In small letters: there is one of each. */
  declare email: string;
  declare role: Role;
  declare passwordHash: string;
  /** Wrong passwords in a row. */
  declare failures: number;
  declare restsUntil: Date | null;
  /** Has left the shop: what they did stays under their name. */
  declare hasLeft: boolean;
  /** Of the demo, with the password that everybody can read. */
  declare isDemo: boolean;
  declare createdAt: Date;
}

/** A browser that somebody signed in with. */
export class Session extends Model<InferAttributes<Session>, InferCreationAttributes<Session>> {
  /** SHA-256 of what the browser holds: who reads the database cannot sign in with it. */
  declare digest: string;
  declare personId: string;
  declare createdAt: Date;
  declare seenAt: Date;
  declare person?: Person;
}

/** Who did what, for good: rows are added and never changed. */
export class AuditEntry extends Model<InferAttributes<AuditEntry>, InferCreationAttributes<AuditEntry>> {
  declare id: string;
  declare at: Date;
  declare personId: string | null;
  declare who: string;
  /** What was done, in words. */
  declare action: string;
  /** The address that it was done to. */
  declare subject: string;
}

export function definePeople(sequelize: Sequelize) {
  Person.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      name: DataTypes.STRING(120),
      email: DataTypes.STRING(200),
      role: DataTypes.STRING(10),
      passwordHash: DataTypes.STRING(200),
      failures: DataTypes.INTEGER,
      restsUntil: DataTypes.DATE,
      hasLeft: DataTypes.BOOLEAN,
      isDemo: DataTypes.BOOLEAN,
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'people' },
  );
  Session.init(
    {
      digest: { type: DataTypes.STRING(64), primaryKey: true },
      personId: DataTypes.UUID,
      createdAt: DataTypes.DATE,
      seenAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'sessions' },
  );
  AuditEntry.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      at: DataTypes.DATE,
      personId: DataTypes.UUID,
      who: DataTypes.STRING(200),
      action: { type: DataTypes.STRING(200), field: 'deed' },
      subject: DataTypes.STRING(300),
    },
    { sequelize, tableName: 'deeds' },
  );
  Session.belongsTo(Person, { foreignKey: 'personId', as: 'person' });
  return { Person, Session, AuditEntry };
}
