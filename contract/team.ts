// Who works on the archive: accounts, roles, teams, and the rights that they hold.

import { z } from 'zod';
import { PERMISSION_IDS, PRESET_ROLE_IDS } from '@stellin/core/accounts/permissions';
import { accountName, displayName } from './accounts';
import { done, id, idParams, isoTime, route, text } from './route';

const permission = z.enum(PERMISSION_IDS);

/** Where a right is: in the whole catalogue, or in a part of it. */
export const rightPlace = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('catalogue') }),
  z.object({ kind: z.literal('drive'), driveId: z.uuid() }),
  z.object({ kind: z.literal('folder'), folderId: id }),
  z.object({ kind: z.literal('dossier'), dossierId: id }),
  z.object({ kind: z.literal('search'), searchId: id }),
]);
export type RightPlace = z.infer<typeof rightPlace>;
export type RightPlaceKind = RightPlace['kind'];

/** Whose a right is. */
const rightHolder = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('account'), id }),
  z.object({ kind: z.literal('team'), id }),
]);

const account = z.object({
  id: z.number(),
  name: z.string(),
  displayName: z.string(),
  disabled: z.boolean(),
  joined: z.boolean().describe('Somebody has chosen a password'),
  invitedUntil: isoTime.nullable().describe('A link to choose a password is open until then'),
  lastUsedAt: isoTime.nullable(),
  secondFactor: z.boolean(),
  teams: z.array(z.number()),
});

const role = z.object({
  id: z.number(),
  preset: z.enum(PRESET_ROLE_IDS).nullable().describe('One that every archive has; it can’t be altered'),
  name: z.string(),
  permissions: z.array(permission),
});

const team = z.object({ id: z.number(), name: z.string(), note: z.string() });

const right = z.object({
  id: z.number(),
  holder: rightHolder,
  roleId: z.number(),
  place: rightPlace,
  placeName: z.string().nullable().describe('Null: the whole catalogue, or what is gone'),
  project: z.boolean().describe('The dossier is that of a project'),
});

const overview = z.object({
  accounts: z.array(account),
  roles: z.array(role),
  teams: z.array(team),
  rights: z.array(right),
});
export type TeamOverview = z.infer<typeof overview>;
export type TeamAccount = z.infer<typeof account>;
export type TeamRole = z.infer<typeof role>;
export type Team = z.infer<typeof team>;
export type TeamRight = z.infer<typeof right>;

/** A link is shown once: what stands behind the address of the archive. */
const link = z.object({ token: z.string(), until: isoTime });

export const newAccount = z.object({
  name: accountName,
  displayName,
  role: z.enum(PRESET_ROLE_IDS).nullable().describe('In the whole catalogue; null: none'),
});

export const roleForm = z.object({
  id: id.nullable().describe('Null makes a new one'),
  name: text.trim().min(1, 'It needs a name.').max(64),
  permissions: z.array(permission).max(PERMISSION_IDS.length),
});

export const teamForm = z.object({
  id: id.nullable().describe('Null makes a new one'),
  name: text.trim().min(1, 'It needs a name.').max(64),
  note: text.max(1000),
  members: z.array(id).max(1000),
});

export const teamRoutes = {
  showTeam: route({
    method: 'GET',
    path: '/api/team',
    access: 'administer',
    shows: 'nothing',
    summary: 'All accounts, roles, teams and rights',
    response: overview,
  }),
  inviteAccount: route({
    method: 'POST',
    path: '/api/team/accounts',
    access: 'administer',
    shows: 'nothing',
    summary: 'Add an account; the answer has what stands in the link with which its password is chosen',
    body: newAccount,
    response: link.extend({ id: z.number() }),
  }),
  linkAccount: route({
    method: 'POST',
    path: '/api/team/accounts/:id/link',
    access: 'administer',
    shows: 'nothing',
    summary: 'Make another link with which the password of an account is chosen, once',
    params: idParams,
    response: link,
  }),
  resetSecondFactor: route({
    method: 'DELETE',
    path: '/api/team/accounts/:id/factor',
    access: 'administer',
    shows: 'nothing',
    summary: 'Take the second factor off for somebody who lost it',
    params: idParams,
    response: done,
  }),
  changeAccount: route({
    method: 'POST',
    path: '/api/team/accounts/:id',
    access: 'administer',
    shows: 'nothing',
    summary: 'Call an account otherwise, disable it, or enable it again',
    params: idParams,
    body: z.object({ displayName: displayName.optional(), disabled: z.boolean().optional() }),
    response: done,
  }),
  saveRole: route({
    method: 'POST',
    path: '/api/team/roles',
    access: 'administer',
    shows: 'nothing',
    summary: 'Make a role, or say what one may do',
    body: roleForm,
    response: z.object({ id: z.number() }),
  }),
  removeRole: route({
    method: 'DELETE',
    path: '/api/team/roles/:id',
    access: 'administer',
    shows: 'nothing',
    summary: 'Remove a role that nobody holds',
    params: idParams,
    response: done,
  }),
  saveTeam: route({
    method: 'POST',
    path: '/api/team/teams',
    access: 'administer',
    shows: 'nothing',
    summary: 'Make a team, or say who is in one',
    body: teamForm,
    response: z.object({ id: z.number() }),
  }),
  removeTeam: route({
    method: 'DELETE',
    path: '/api/team/teams/:id',
    access: 'administer',
    shows: 'nothing',
    summary: 'Remove a team with its rights',
    params: idParams,
    response: done,
  }),
  giveRight: route({
    method: 'POST',
    path: '/api/team/rights',
    access: 'administer',
    shows: 'nothing',
    summary: 'Give an account or a team a role in a part of the catalogue',
    body: z.object({ holder: rightHolder, roleId: id, place: rightPlace }),
    response: z.object({ id: z.number() }),
  }),
  takeRight: route({
    method: 'DELETE',
    path: '/api/team/rights/:id',
    access: 'administer',
    shows: 'nothing',
    summary: 'Take a right away',
    params: idParams,
    response: done,
  }),
};
