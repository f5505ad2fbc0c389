import type { Sign } from '@plain-relief/core/sign';
import { Op, type WhereOptions } from 'sequelize';
import type { Database } from '../../platform/database/database.js';

/** Ids of the job's files that a sign shows: the picture under its plan, and the object that it is for. */
export const filesOf = ({ ground, context }: Sign): string[] => [ground, context].flatMap((shown) => shown?.file ?? []);

/** A sign that shows other files in their place. */
export function withFiles(sign: Sign, others: ReadonlyMap<string, string>): Sign {
  const other = <T extends { readonly file: string }>(shown: T): T => ({ ...shown, file: others.get(shown.file) ?? shown.file });
  return {
    ...sign,
    ...(sign.ground && { ground: other(sign.ground) }),
    ...(sign.context && { context: other(sign.context) }),
  };
}

/** Conditions on signs that show a file. */
export const showsFile = (id: string): WhereOptions =>
  ({ [Op.or]: [{ 'document.ground.file': id }, { 'document.context.file': id }] }) as WhereOptions;

/** What a file is in use for, in words: a place's photograph, or what a sign shows, one in the bin too; undefined where it is not. */
export async function useOfFile(db: Database, id: string): Promise<string | undefined> {
  const place = await db.PlaceRow.findOne({ where: { 'document.ground.file': id } as WhereOptions });
  if (place) return `the photograph of the place “${place.title}”`;
  const sign = await db.SignRow.findOne({ where: showsFile(id), paranoid: false });
  return sign ? `shown with the sign “${sign.title}”` : undefined;
}
