// Roles, teams, and who holds which right: what keepers settle on Team.

import { PRESET_ROLES, type PresetRole } from '@stellin/core/accounts/permissions';
import { foldText } from '@stellin/core/text/words';
import type { RightPlace, TeamOverview } from '@stellin/contract/team';
import type { Database, Transaction } from '../database/database';
import { ACCOUNT, HELD_RIGHT, ROLE, TEAM, TEAM_MEMBER } from '../database/models/accounts';
import { modelOf } from '../database/models/table';
import { StellinError } from '../errors';
import { permissionsOf } from './rights';
import { withAnAdministrator } from './service';
import * as store from './store';

export type Teams = ReturnType<typeof teamService>;

type Holder = { kind: 'account' | 'team'; id: number };

export function teamService(database: Database) {
  // One closure for what its functions share; each of them fits a screen.
  const [roles, teams, members, rights, accounts] = [
    modelOf(database, ROLE),
    modelOf(database, TEAM),
    modelOf(database, TEAM_MEMBER),
    modelOf(database, HELD_RIGHT),
    modelOf(database, ACCOUNT),
  ];

  /** Refuses a name that another one of these has. */
  const requireFree = async (
    found: { id: number } | null,
    { id, name, what }: { id: number | null; name: string; what: string },
  ): Promise<void> => {
    if (found && found.id !== id) throw new StellinError('nameTaken', { what, name });
  };

  return {
    async overview(): Promise<TeamOverview> {
      const [known, allRoles, allTeams, held] = await Promise.all([
        store.listAccounts(database),
        roles.findAll({ order: ['id'] }),
        teams.findAll({ order: ['nameFolded'] }),
        store.listRights(database),
      ]);
      return {
        accounts: known,
        roles: allRoles.map((role) => ({
          id: role.id,
          preset: role.preset as PresetRole | null,
          name: role.name,
          permissions: permissionsOf(role),
        })),
        teams: allTeams.map(({ id, name, note }) => ({ id, name, note })),
        rights: held.map((row) => ({
          id: row.id,
          holder: holderOf(row),
          roleId: row.roleId,
          place: placeOf(row),
          placeName: row.place,
          project: row.project,
        })),
      };
    },

    /** Makes a role, or says anew what one may do; whoever may anything may see. */
    async saveRole({
      id,
      name,
      permissions,
    }: {
      id: number | null;
      name: string;
      permissions: readonly string[];
    }): Promise<number> {
      const values = { name, nameFolded: foldText(name), permissions: [...new Set(['see', ...permissions])] };
      let saved = id ?? 0;
      await withAnAdministrator(database, async (transaction) => {
        const found = await roles.findOne({ where: { nameFolded: values.nameFolded }, transaction });
        await requireFree(found, { id, name, what: 'a role' });
        if (id === null) saved = (await roles.create({ ...values, preset: null }, { transaction })).id;
        else await (await requireRole(id, transaction)).update(values, { transaction });
        return name;
      });
      return saved;
    },

    async removeRole(id: number): Promise<void> {
      await database.transaction(async (transaction) => {
        const role = await requireRole(id, transaction);
        const holders = await rights.count({ where: { roleId: id }, transaction });
        if (holders > 0)
          throw new StellinError('roleInUse', {
            name: role.name,
            holders: holders === 1 ? 'whoever holds it' : `the ${holders} who hold it`,
          });
        await role.destroy({ transaction });
        await database.notify(['accounts'], transaction);
      });
    },

    /** Makes a team, or says anew who is in one. */
    async saveTeam({
      id,
      name,
      note,
      members: wanted,
    }: {
      id: number | null;
      name: string;
      note: string;
      members: readonly number[];
    }): Promise<number> {
      const values = { name, nameFolded: foldText(name), note };
      let saved = id ?? 0;
      await withAnAdministrator(database, async (transaction) => {
        const found = await teams.findOne({ where: { nameFolded: values.nameFolded }, transaction });
        await requireFree(found, { id, name, what: 'a team' });
        if (id === null) saved = (await teams.create(values, { transaction })).id;
        else await (await requireTeam(id, transaction)).update(values, { transaction });
        const known = await accounts.findAll({ where: { id: [...wanted] }, attributes: ['id'], transaction });
        await members.destroy({ where: { teamId: saved }, transaction });
        await members.bulkCreate(
          known.map((account) => ({ teamId: saved, accountId: account.id })),
          { transaction },
        );
        return name;
      });
      return saved;
    },

    /** Removes a team; what its members could do because of it they can’t do any more. */
    async removeTeam(id: number): Promise<void> {
      await withAnAdministrator(database, async (transaction) => {
        const team = await requireTeam(id, transaction);
        await team.destroy({ transaction });
        return team.name;
      });
    },

    /** Gives an account or a team a role in a part of the catalogue; one that is held already stays the one it is. */
    async giveRight(holder: Holder, roleId: number, place: RightPlace): Promise<number> {
      return database.transaction(async (transaction) => {
        const role = await roles.findByPk(roleId, { transaction });
        if (!role) throw new StellinError('notFound', { what: 'such role' });
        if (holder.kind === 'team') await requireTeam(holder.id, transaction);
        else if (!(await accounts.findByPk(holder.id, { transaction })))
          throw new StellinError('notFound', { what: 'such account' });
        const values = {
          accountId: holder.kind === 'account' ? holder.id : null,
          teamId: holder.kind === 'team' ? holder.id : null,
          roleId,
          ...NOWHERE,
          ...columnsOf(place),
        };
        const held = await rights.findOne({ where: values, transaction });
        if (held) return held.id;
        const { id } = await rights.create(values, { transaction });
        await database.notify(['accounts'], transaction);
        return id;
      });
    },

    async takeRight(id: number): Promise<void> {
      await withAnAdministrator(database, async (transaction) => {
        const right = await rights.findByPk(id, { transaction });
        if (!right) throw new StellinError('notFound', { what: 'such right' });
        const account = right.accountId === null ? null : await accounts.findByPk(right.accountId, { transaction });
        await right.destroy({ transaction });
        return account?.displayName ?? 'the team';
      });
    },

    /** Whether what a saved search asks decides what somebody may see. */
    givesRights: (searchId: number, tx: Transaction) => store.givesRights(database, searchId, tx),
  };

  async function requireRole(id: number, transaction: Transaction) {
    const role = await roles.findByPk(id, { transaction });
    if (!role) throw new StellinError('notFound', { what: 'such role' });
    if (role.preset !== null)
      throw new StellinError('roleFixed', { name: PRESET_ROLES[role.preset as PresetRole].label });
    return role;
  }

  async function requireTeam(id: number, transaction: Transaction) {
    const team = await teams.findByPk(id, { transaction });
    if (!team) throw new StellinError('notFound', { what: 'such team' });
    return team;
  }
}

const NOWHERE: store.PlaceRow = { driveId: null, folderId: null, dossierId: null, searchId: null };

function columnsOf(place: RightPlace): Partial<store.PlaceRow> {
  const { kind, ...columns } = place;
  return kind === 'catalogue' ? {} : columns;
}

function placeOf({ driveId, folderId, dossierId, searchId }: store.PlaceRow): RightPlace {
  if (driveId !== null) return { kind: 'drive', driveId };
  if (folderId !== null) return { kind: 'folder', folderId };
  if (dossierId !== null) return { kind: 'dossier', dossierId };
  return searchId === null ? { kind: 'catalogue' } : { kind: 'search', searchId };
}

function holderOf({ accountId, teamId }: { accountId: number | null; teamId: number | null }): Holder {
  return accountId === null ? { kind: 'team', id: teamId ?? 0 } : { kind: 'account', id: accountId };
}
