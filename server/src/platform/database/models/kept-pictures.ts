import { createHash } from 'node:crypto';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** Raised whenever what a picture shows is drawn otherwise, so that none of before is shown again. */
const EDITION = 1;

/** A picture that was made, or what else of a sign takes as long. */
export class KeptPicture extends Model<InferAttributes<KeptPicture>, InferCreationAttributes<KeptPicture>> {
  /** What it is of: of each there is one at most, the newest. */
  declare subject: string;
  /** Which one of it, as the revision of a sign. */
  declare version: string;
  /** The sign that it goes with, and is removed with; null for what is frozen. */
  declare signId: string | null;
  declare content: Buffer;
}

export function defineKeptPictures(sequelize: Sequelize) {
  KeptPicture.init(
    {
      subject: { type: DataTypes.STRING(200), primaryKey: true },
      version: DataTypes.STRING(40),
      signId: DataTypes.UUID,
      content: DataTypes.BLOB,
    },
    { sequelize, tableName: 'pictures' },
  );
  return { KeptPicture };
}

/** What a picture is of, and which one. */
export interface PictureName {
  readonly subject: string;
  readonly revision?: number;
  readonly signId?: string;
}

const versionOf = ({ revision }: PictureName): string => `${EDITION} ${revision ?? ''}`;

/** A name for the contents as HTTP has them (RFC 9110, 8.8.3): the same as long as the picture is, known before it is made. */
export function entityTag(name: PictureName): string {
  return `"${createHash('sha256')
    .update(`${name.subject} ${versionOf(name)}`)
    .digest('base64url')
    .slice(0, 24)}"`;
}

/** The picture of a name where it was made before. */
export async function pictureKept(name: PictureName): Promise<Uint8Array | undefined> {
  const where = { subject: name.subject, version: versionOf(name) };
  const row = await KeptPicture.findOne({ where, attributes: ['content'], raw: true });
  return row?.content;
}

/** Keeps a picture in the place of the one of before. */
export async function keepPicture(name: PictureName, content: Uint8Array): Promise<void> {
  await KeptPicture.upsert({
    subject: name.subject,
    version: versionOf(name),
    signId: name.signId ?? null,
    content: Buffer.from(content),
  });
}
