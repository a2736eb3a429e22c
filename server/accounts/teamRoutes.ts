// The routes of accounts, roles, teams and rights, for who looks after them.

import type { FastifyInstance } from 'fastify';
import { teamRoutes } from '@stellin/contract/team';
import { serve } from '../serve';
import type { SecondFactor } from './secondFactor';
import type { Accounts } from './service';
import type { Teams } from './teams';

const DONE = { done: true as const };

interface Parts {
  accounts: Accounts;
  teams: Teams;
  secondFactor: SecondFactor;
}

export function teamRoutesFor(app: FastifyInstance, { accounts, teams, secondFactor }: Parts): void {
  serve(app, teamRoutes.showTeam, () => teams.overview());
  serve(app, teamRoutes.inviteAccount, async ({ body, person }) => {
    const { id } = await accounts.invite(body);
    return { id, ...(await accounts.link(id, person.id)) };
  });
  serve(app, teamRoutes.linkAccount, ({ params, person }) => accounts.link(params.id, person.id));
  serve(app, teamRoutes.resetSecondFactor, async ({ params }) => {
    await secondFactor.reset(params.id);
    return DONE;
  });
  serve(app, teamRoutes.changeAccount, async ({ params, body }) => {
    if (body.displayName !== undefined) await accounts.rename(params.id, body.displayName);
    if (body.disabled === true) await accounts.disable(params.id);
    if (body.disabled === false) await accounts.enable(params.id);
    return DONE;
  });
  serve(app, teamRoutes.saveRole, async ({ body }) => ({ id: await teams.saveRole(body) }));
  serve(app, teamRoutes.removeRole, async ({ params }) => {
    await teams.removeRole(params.id);
    return DONE;
  });
  serve(app, teamRoutes.saveTeam, async ({ body }) => ({ id: await teams.saveTeam(body) }));
  serve(app, teamRoutes.removeTeam, async ({ params }) => {
    await teams.removeTeam(params.id);
    return DONE;
  });
  serve(app, teamRoutes.giveRight, async ({ body }) => ({
    id: await teams.giveRight(body.holder, body.roleId, body.place),
  }));
  serve(app, teamRoutes.takeRight, async ({ params }) => {
    await teams.takeRight(params.id);
    return DONE;
  });
}
