// The tables of accounts and their sessions.

import {
  DataTypes,
  type Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';
import type { Role } from '@stellin/contract/route';

export interface AccountRow extends Model<InferAttributes<AccountRow>, InferCreationAttributes<AccountRow>> {
  id: CreationOptional<number>;
  name: string;
  displayName: string;
  role: Role;
  passwordHash: string;
  disabledAt: Date | null;
}

export interface SessionRow extends Model<InferAttributes<SessionRow>, InferCreationAttributes<SessionRow>> {
  tokenHash: string;
  accountId: number;
  expiresAt: Date;
}

export interface AccountModels {
  accounts: ModelStatic<AccountRow>;
  sessions: ModelStatic<SessionRow>;
}

/** The tables of people who may sign in and of their sessions. */
export function accountModels(sequelize: Sequelize): AccountModels {
  const options = { underscored: true, timestamps: false, freezeTableName: true };
  const accounts = sequelize.define<AccountRow>(
    'account',
    {
      id: { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true },
      name: { type: DataTypes.TEXT, allowNull: false },
      displayName: { type: DataTypes.TEXT, allowNull: false },
      role: { type: DataTypes.TEXT, allowNull: false },
      passwordHash: { type: DataTypes.TEXT, allowNull: false },
      disabledAt: { type: DataTypes.DATE },
    },
    options,
  );
  const sessions = sequelize.define<SessionRow>(
    'session',
    {
      tokenHash: { type: DataTypes.TEXT, primaryKey: true },
      accountId: { type: DataTypes.INTEGER, allowNull: false },
      expiresAt: { type: DataTypes.DATE, allowNull: false },
    },
    options,
  );
  return { accounts, sessions };
}

/** An account to be made, with its password as it is typed. */
export interface NewAccount {
  name: string;
  displayName: string;
  role: Role;
  password: string;
}
