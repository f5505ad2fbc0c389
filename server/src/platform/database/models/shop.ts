import type { ShopCard } from '@plain-relief/api';
import { type Shop } from '@plain-relief/core/shop';
import { type Blank, type Finish, type Sign } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import { type SheetLayout } from '@plain-relief/core/sheet';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** A font of the shop's own, unwrapped, with its entry of the catalogue. */
export class ShopFont extends Model<InferAttributes<ShopFont>, InferCreationAttributes<ShopFont>> {
  declare id: string;
  declare entry: FontEntry;
  declare isRestricted: boolean;
  declare fileName: string;
  declare digest: string;
  declare content: Buffer;
  declare createdAt: Date;
}

/** A blank that the shop uses often. */
export class ShopBlank extends Model<InferAttributes<ShopBlank>, InferCreationAttributes<ShopBlank>> {
  declare id: string;
  declare name: string;
  declare blank: Blank;
  declare createdAt: Date;
}

/** A finish of the shop's own: a paint, a leaf, a material. */
export class ShopFinish extends Model<InferAttributes<ShopFinish>, InferCreationAttributes<ShopFinish>> {
  declare id: string;
  declare finish: Finish;
  declare createdAt: Date;
}

/** What the shop says of itself; there is one. */
export class ShopCardRow extends Model<InferAttributes<ShopCardRow>, InferCreationAttributes<ShopCardRow>> {
  declare id: number;
  declare card: ShopCard;
}

/** What sheets show, as the shop likes it. */
export class ShopLayout extends Model<InferAttributes<ShopLayout>, InferCreationAttributes<ShopLayout>> {
  declare id: string;
  declare name: string;
  declare layout: SheetLayout;
  declare createdAt: Date;
}

/** The shop's materials, tools, machines and rates; there is one. */
export class ShopLibraryRow extends Model<InferAttributes<ShopLibraryRow>, InferCreationAttributes<ShopLibraryRow>> {
  declare id: number;
  declare revision: number;
  declare library: Shop;
}

/** A sign that the shop begins others from. */
export class ShopKind extends Model<InferAttributes<ShopKind>, InferCreationAttributes<ShopKind>> {
  declare id: string;
  declare name: string;
  declare document: Sign;
  declare createdAt: Date;
}

export function defineShop(sequelize: Sequelize) {
  ShopFont.init(
    {
      id: { type: DataTypes.STRING(64), primaryKey: true },
      entry: { type: DataTypes.JSONB, allowNull: false },
      isRestricted: { type: DataTypes.BOOLEAN, allowNull: false },
      fileName: { type: DataTypes.STRING(200), allowNull: false },
      digest: { type: DataTypes.STRING(64), allowNull: false },
      content: { type: DataTypes.BLOB, allowNull: false },
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'shop_fonts' },
  );
  ShopBlank.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      name: { type: DataTypes.STRING(80), allowNull: false },
      blank: { type: DataTypes.JSONB, allowNull: false },
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'shop_blanks' },
  );
  ShopFinish.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      finish: { type: DataTypes.JSONB, allowNull: false },
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'shop_finishes' },
  );
  ShopLibraryRow.init(
    {
      id: { type: DataTypes.INTEGER, primaryKey: true },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      library: { type: DataTypes.JSONB, allowNull: false },
    },
    { sequelize, tableName: 'shop_library' },
  );
  ShopCardRow.init(
    { id: { type: DataTypes.INTEGER, primaryKey: true }, card: { type: DataTypes.JSONB, allowNull: false } },
    { sequelize, tableName: 'shop_card' },
  );
  ShopLayout.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      name: { type: DataTypes.STRING(80), allowNull: false },
      layout: { type: DataTypes.JSONB, allowNull: false },
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'shop_layouts' },
  );
  ShopKind.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      name: { type: DataTypes.STRING(80), allowNull: false },
      document: { type: DataTypes.JSONB, allowNull: false },
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'shop_kinds' },
  );
  return { ShopKind, ShopLibraryRow, ShopCardRow, ShopLayout, ShopFont, ShopBlank, ShopFinish };
}
