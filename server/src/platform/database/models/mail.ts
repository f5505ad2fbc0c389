import type { MailState } from '@plain-relief/api/states';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** A letter to somebody outside, written down before it is sent, so that none is lost. */
export class Mail extends Model<InferAttributes<Mail>, InferCreationAttributes<Mail>> {
  declare id: string;
  declare jobId: string;
  declare to: string;
  declare subject: string;
  declare text: string;
  declare state: MailState;
  /** Why it could not be sent. */
  declare error: string | null;
  declare writtenAt: Date;
  /** When it was sent, or when sending began. */
  declare sentAt: Date | null;
}

export function defineMail(sequelize: Sequelize) {
  Mail.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      jobId: DataTypes.UUID,
      to: DataTypes.STRING(200),
      subject: DataTypes.STRING(300),
      text: DataTypes.TEXT,
      state: DataTypes.STRING(10),
      error: DataTypes.TEXT,
      writtenAt: DataTypes.DATE,
      sentAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'mails' },
  );
  return { Mail };
}
