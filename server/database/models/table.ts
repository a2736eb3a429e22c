// How a table is described: its columns, with their types and what may be empty, once for Sequelize and for TypeScript.

import { DataTypes, type DataType, type Model, type ModelAttributeColumnOptions, type ModelStatic } from 'sequelize';
import type { Database } from '../database';

interface Options {
  /** It is (a part of) the primary key. */
  key?: true;
  /** The database fills it where nothing is given. */
  preset?: true;
  orNull?: true;
  /** The table whose rows it refers to. */
  of?: string;
}

interface Column<Value, Given extends Options> {
  attribute: ModelAttributeColumnOptions;
  given: Given;
  /** Never there: it carries the type. */
  value?: Value;
}

type Columns = Record<string, Column<unknown, Options>>;
type ValueOf<Of> =
  Of extends Column<infer Value, infer Given> ? (Given['orNull'] extends true ? Value | null : Value) : never;
type FilledBy<Of> =
  Of extends Column<unknown, infer Given> ? (true extends Given['preset'] | Given['orNull'] ? true : false) : false;

interface Table<Of extends Columns> {
  name: string;
  columns: Of;
}

/** A row of a table as TypeScript sees it. */
export type RowOf<Of> = Of extends Table<infer Cs> ? { [Name in keyof Cs]: ValueOf<Cs[Name]> } : never;
/** What is given for a new row: what the database fills, or may be empty, can be left out. */
type NewRowOf<Of> =
  Of extends Table<infer Cs>
    ? { [Name in keyof Cs as FilledBy<Cs[Name]> extends true ? never : Name]: ValueOf<Cs[Name]> } & {
        [Name in keyof Cs as FilledBy<Cs[Name]> extends true ? Name : never]?: ValueOf<Cs[Name]>;
      }
    : never;
export type ModelOf<Of> = ModelStatic<Model<RowOf<Of> & object, NewRowOf<Of> & object> & RowOf<Of>>;

export function table<const Of extends Columns>(name: string, columns: Of): Table<Of> {
  return { name, columns };
}

/** The model of a table, for plain reads and writes. Columns are snake_case in the database and camelCase here. */
export function modelOf<Of extends Columns>({ sequelize }: Database, { name, columns }: Table<Of>): ModelOf<Table<Of>> {
  const known = sequelize.models[name];
  const attributes = Object.fromEntries(Object.entries(columns).map(([column, { attribute }]) => [column, attribute]));
  // The types say of the columns what the attributes do.
  return (known ??
    sequelize.define(name, attributes, {
      underscored: true,
      timestamps: false,
      freezeTableName: true,
    })) as unknown as ModelOf<Table<Of>>;
}

function kind<Value>(type: DataType) {
  return <const Given extends Options>(given: Given = {} as Given): Column<Value, Given> => ({
    given,
    attribute: {
      type,
      // What the database fills is not asked for.
      allowNull: given.orNull === true || given.preset === true,
      ...(given.key ? { primaryKey: true } : {}),
      ...(given.key && given.preset && type === DataTypes.INTEGER ? { autoIncrement: true } : {}),
    },
  });
}

export const integer = kind<number>(DataTypes.INTEGER);
export const smallint = kind<number>(DataTypes.SMALLINT);
/** As text: it may be larger than a number can say. */
export const bigint = kind<string>(DataTypes.BIGINT);
export const real = kind<number>(DataTypes.REAL);
export const double = kind<number>(DataTypes.DOUBLE);
export const boolean = kind<boolean>(DataTypes.BOOLEAN);
export const text = kind<string>(DataTypes.TEXT);
/** A text that is one of a few. */
export const choiceOf = <Value extends string>() => kind<Value>(DataTypes.TEXT)();
export const name = kind<string>(DataTypes.STRING);
export const uuid = kind<string>(DataTypes.UUID);
export const json = kind<unknown>(DataTypes.JSONB);
export const bytes = kind<Buffer>(DataTypes.BLOB);
export const integers = kind<number[]>(DataTypes.ARRAY(DataTypes.INTEGER));
export const texts = kind<string[]>(DataTypes.ARRAY(DataTypes.TEXT));
/** A moment, with its zone. */
export const moment = kind<Date>(DataTypes.DATE);
/** The time a clock shows at a place, whose zone is not known. */
export const localTime = kind<string>('TIMESTAMP WITHOUT TIME ZONE');
/** Words for searching. */
export const words = kind<string>(DataTypes.TSVECTOR);
export const transactionId = kind<string>('XID8');
