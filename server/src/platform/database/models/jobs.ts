import type { JobState } from '@plain-relief/api/states';
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import { BINNED } from './binned.js';
import type { SignRow } from './signs.js';

export class Customer extends Model<InferAttributes<Customer>, InferCreationAttributes<Customer>> {
  declare id: string;
  /** Short letters that job numbers begin with. */
  declare code: string;
  declare name: string;
  declare contact: CreationOptional<string>;
  declare createdAt: Date;
}

export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: string;
  declare customerId: string;
  declare number: string;
  declare title: string;
  declare state: JobState;
  /** ISO date, or null where none is agreed. */
  declare dueOn: string | null;
  declare quantity: number;
  declare unit: 'mm' | 'in';
  declare createdAt: Date;
  /** Since when it lies in the bin. */
  declare removedAt: CreationOptional<Date | null>;
  declare customer?: NonAttribute<Customer>;
  declare signs?: NonAttribute<SignRow[]>;
}

export function defineJobs(sequelize: Sequelize) {
  const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
  Customer.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      code: text(8),
      name: text(120),
      contact: { ...text(200), defaultValue: '' },
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'customers' },
  );
  Job.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      customerId: DataTypes.UUID,
      number: text(20),
      title: text(200),
      state: text(20),
      dueOn: DataTypes.DATEONLY,
      quantity: DataTypes.INTEGER,
      unit: text(2),
      createdAt: DataTypes.DATE,
      removedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'jobs', ...BINNED },
  );
  return { Customer, Job };
}
